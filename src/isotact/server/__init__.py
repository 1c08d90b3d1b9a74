"""Starting and serving: the data folder taken, the port bound, the first page at once, the rest loaded behind it."""
