"""What is let in: the guard before every request, who asks and may they, and the codes by which one joins."""
