"""What `./reed` does, a module a sub-command; standard library only until the environment exists."""
