"""The WSGI application."""

import os

from django.core.wsgi import get_wsgi_application

from zygon_server.local import prepare

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "zygon_server.settings")
prepare()
application = get_wsgi_application()
