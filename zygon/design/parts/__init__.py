"""What a design is made of: one record a kind of part."""
