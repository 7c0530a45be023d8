"""The web server: one router per resource, errors mapped in one place."""
