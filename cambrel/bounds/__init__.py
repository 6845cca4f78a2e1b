"""How much is taken in, and how much work is done for it: the table of doors, queues with deadlines, and documents read
within bounds. Pure.
"""
