"""What an installation keeps: backups, whether all of it is sound, and what goes after a while."""
