"""The made-up clinic of Harrow Quay; calls use-cases only."""
