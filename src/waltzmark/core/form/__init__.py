"""The document's values: the form with its postures, its room, its mutes, and the whole score as text."""
