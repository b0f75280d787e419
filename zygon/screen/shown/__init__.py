"""Records of what a screen is told: plain data by key, so that an answer is them as they are."""
