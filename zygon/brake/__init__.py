"""The press brake: which tools make a bend, in which order bends can be done, and what runs into what on the way."""
