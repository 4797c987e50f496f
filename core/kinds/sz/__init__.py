"""A hiss that turns into a buzz."""
