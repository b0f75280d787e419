"""Problems: one rule a function, each with its place, value, rule, source and mend."""
