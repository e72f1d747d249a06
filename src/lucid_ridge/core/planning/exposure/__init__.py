"""Step 5, exposure: from the reading through filters and flash to the exposures, and what moves meanwhile."""
