"""Settings; everything that differs between machines comes from the environment."""

import os
from pathlib import Path

from zygon_server.local import BASE, VAR, secret_key

DEBUG = os.environ.get("ZYGON_DEBUG") == "1"
#: The demo's open door on the sign-in page; off unless the demo switched it on.
DEMO = os.environ.get("ZYGON_DEMO") == "1"
#: How long a quick run looks for better layouts, of all its stocks together.
QUICK_SECONDS = float(os.environ.get("ZYGON_QUICK_SECONDS", "0.8"))
SECRET_KEY = secret_key()
ALLOWED_HOSTS = os.environ.get("ZYGON_HOSTS", "127.0.0.1,localhost,testserver").split(",")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "django_tasks_db",
    "zygon_server.accounts",
    "zygon_server.workshop",
    "zygon_server.designs",
    "zygon_server.nesting",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "zygon_server.policy.ContentSecurityPolicy",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "zygon_server.urls"
WSGI_APPLICATION = "zygon_server.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [Path(__file__).parent / "templates"],
        "OPTIONS": {"context_processors": ["django.template.context_processors.request"]},
    }
]
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": VAR / "zygon.sqlite3",
        "OPTIONS": {
            # writers take the lock when they begin, so that a read that turns into a write never loses
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL; PRAGMA foreign_keys=ON;",
        },
        "TEST": {"NAME": os.environ.get("ZYGON_TEST_DB", str(VAR / "test.sqlite3"))},
    }
}
# quick runs have a queue of their own, so that nobody's search holds up what another maker sees while editing
TASKS = {"default": {"BACKEND": os.environ.get("ZYGON_TASKS", "django_tasks_db.DatabaseBackend"), "QUEUES": ["default", "quick"]}}

AUTH_PASSWORD_VALIDATORS = [{"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"}]
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
LANGUAGE_CODE = "en"
TIME_ZONE = "UTC"
USE_TZ = True

STATIC_URL = "/static/"
WEB_DIST = BASE / "web" / "dist"
STATICFILES_DIRS = [WEB_DIST] if WEB_DIST.exists() else []
STATIC_ROOT = VAR / "static"
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False
WHITENOISE_IMMUTABLE_FILE_TEST = r"^.+-[A-Za-z0-9_-]{8}\..+$"

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
X_FRAME_OPTIONS = "DENY"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
DATA_UPLOAD_MAX_MEMORY_SIZE = 9_000_000
