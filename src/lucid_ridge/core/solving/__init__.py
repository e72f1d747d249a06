"""The solver: which settings, filters, frames and start give what is wished, and what must give way where nothing
does.

"""
