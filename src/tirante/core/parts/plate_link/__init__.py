"""Links cut from plate."""
