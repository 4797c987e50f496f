"""What takes long: run by `./reed test long`, not by `./reed test`."""
