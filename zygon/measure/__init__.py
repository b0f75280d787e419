"""Units, quantities as people write them, and expressions over named sizes."""
