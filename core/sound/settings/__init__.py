"""The numbers each detector works with, one frozen object a detector: what a number is for, and the
seeded sound whose figures move when it does. Listed in `docs/measuring-settings.md`."""
