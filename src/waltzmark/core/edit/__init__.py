"""From a form to a form: editing, keeping, dragging and snapping."""
