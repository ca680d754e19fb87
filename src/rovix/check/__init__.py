"""What those who watch will see and read, computed before it is shown."""
