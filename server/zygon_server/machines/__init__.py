"""The machines of the workshop: sheets that wait for them, what lies on their beds, and the line to each."""
