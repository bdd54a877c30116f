"""Small widgets that more than one stage uses."""
