"""What leaves as a file of its own: drawings, tables, and the typeface that goes with them."""
