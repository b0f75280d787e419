"""Plants small mistakes in the code, one at a time, and tells which of them no test catches."""
