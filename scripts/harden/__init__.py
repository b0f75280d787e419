"""The long form of what the application withstands: ``make harden``; its figures stand in docs/hardening.md."""
