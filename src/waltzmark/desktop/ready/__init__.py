"""The Ready stage: the body that walks, its soles and floor, and the school it follows."""
