"""Sets: the hardware along a bore, chosen by what it passes, and the holes that it asks for."""
