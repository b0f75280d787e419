"""The WSGI application."""

import gc
import os

from django.core.wsgi import get_wsgi_application

from zygon_server.local import prepare

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "zygon_server.settings")
prepare()
application = get_wsgi_application()
# what is loaded by now stays, and what designs are made of hardly ever goes in circles: looking through all of it halts everybody for a tenth of a second
gc.collect()
gc.freeze()
gc.set_threshold(20_000, 20, 100)
