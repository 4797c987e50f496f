"""Settings of the sound detectors: one frozen class for each. Listed in `docs/measuring-settings.md`."""
