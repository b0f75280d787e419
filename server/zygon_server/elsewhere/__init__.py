"""What is cut elsewhere: outside cutters, and what is asked of them, ordered and received."""
