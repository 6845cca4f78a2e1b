"""The one reader of photographic wording: lenses, cameras and formats in words, adverts, and typed figures. Pure."""
