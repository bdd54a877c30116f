"""The second question: does the walk come home?"""
