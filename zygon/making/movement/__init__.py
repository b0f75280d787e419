"""What moves: rigid things, the freedoms that are left between them, where they stop, and how everything lies when they are moved."""
