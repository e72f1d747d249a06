"""PostgreSQL: tables, migrations and sessions."""
