"""Minutes, load and the calendar of home sessions. Which tasks are done is none of its business."""
