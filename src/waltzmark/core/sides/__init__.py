"""The third question: do its two sides mirror each other?"""
