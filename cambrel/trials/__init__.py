"""Field work: shots with what is predicted of them, what they come to, what own pictures say, and a card to carry.
Pure.
"""
