"""What could be joined, and every way of every promise over it."""
