"""From a scene and a camera to pixels: float linear light, true discs, layers from far to near. Pure; no web
framework.
"""
