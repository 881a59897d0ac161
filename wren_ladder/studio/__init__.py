"""The web app: a Django project around the core."""
