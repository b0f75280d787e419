"""What drawings are kept as: records, which parts and bars have."""
