"""What small errors do, and which of many would explain what was read: methods; they know no suspension word."""
