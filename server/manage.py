#!/usr/bin/env python
"""Django's command line for the server."""

import os
import sys

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "zygon_server.settings")
    from django.core.management import execute_from_command_line
    from zygon_server.local import prepare

    prepare()
    execute_from_command_line(sys.argv)
