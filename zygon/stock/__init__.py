"""What parts are cut from and with: sheets, cutters, fits, gauges."""
