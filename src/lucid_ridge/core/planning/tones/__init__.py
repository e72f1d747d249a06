"""The picture in tones: luminance of the scene, what the sensor records, and ways to hold sky and land."""
