"""What is typed: figures as form fields, and how they are written on a page."""
