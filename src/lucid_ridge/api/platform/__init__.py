"""What every blueprint uses: request context, errors, files, field types, undo, who may ask."""
