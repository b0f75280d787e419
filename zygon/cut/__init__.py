"""From flats to what the cutter does: kerf compensation, cutting order, time and cost."""
