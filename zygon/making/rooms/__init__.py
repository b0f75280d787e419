"""Where another board would find room: what parts take up, the rooms before a face, what bounds them, and where in them a board catches."""
