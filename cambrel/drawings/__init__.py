"""From results to geometry: scales, paths and labels for SVG. Pure; the template only writes it out."""
