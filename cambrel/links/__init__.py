"""What goes into an address: a bench, gear, a choice, each as one parameter, and the tables of every version. Codecs
only.
"""
