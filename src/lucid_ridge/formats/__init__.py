"""Files of other programs: bytes to plain facts and back.

What cannot be read raises FormatError and changes nothing.

"""
