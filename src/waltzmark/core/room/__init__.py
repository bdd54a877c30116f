"""The first question: does the walk fit the room?"""
