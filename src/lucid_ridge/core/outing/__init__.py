"""Several shots and other stops on a day or several: their order, their times, and what to pack."""
