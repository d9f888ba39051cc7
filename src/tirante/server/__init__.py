"""What runs on the machine: the private MariaDB, the web server, their supervisor, backup and restore."""
