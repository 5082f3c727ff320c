"""What helps to decide, read off the workings: a repricing round, where a serving is sold, meal deals, practice."""
