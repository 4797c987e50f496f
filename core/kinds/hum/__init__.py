"""A long level hum."""
