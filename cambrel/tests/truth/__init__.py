"""The truth test: random benches, every sentence judged again by predicates of its own, written from the physics and
not from the rules.
"""
