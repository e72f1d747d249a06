"""Step 3, frame: composition, panorama, vignetting, standing area, and what the finder draws."""
