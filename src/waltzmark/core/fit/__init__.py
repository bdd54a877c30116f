"""One form, many bodies: the nearest form that a body can walk."""
