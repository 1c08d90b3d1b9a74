"""The rules of the job and all computation: pure Python, no web, no database, no clock, no files."""
