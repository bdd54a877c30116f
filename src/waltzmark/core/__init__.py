"""What is computed: no interface, no files, no sentences."""
