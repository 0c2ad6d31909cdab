"""Charts and drawings for files: SVG and PDF."""
