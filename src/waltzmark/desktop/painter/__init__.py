"""The one painter: soles, arcs, dials and beams, for the floor, the score rows, the ribbon and print."""
