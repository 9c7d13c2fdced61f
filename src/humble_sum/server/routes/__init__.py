"""Addresses: each takes a request and hands it on."""
