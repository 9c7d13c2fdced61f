"""The web application: an HTTP API under /api, and the built front end beside it."""
