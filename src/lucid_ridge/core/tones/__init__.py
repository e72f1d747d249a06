"""The scene in stops: luminances of everything in the frame, the picture that they make, and what a sensor holds of
it.
"""
