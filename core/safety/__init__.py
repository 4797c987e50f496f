"""Screening and what it blocks. Rules only; who wrote what and when is kept by the web half."""
