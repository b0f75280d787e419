"""Programs for machines (RS-274): written from tool paths, read again by a reader that shares nothing with the writer, timed and looked through."""
