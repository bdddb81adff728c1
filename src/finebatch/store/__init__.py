"""The data file: SQLite through SQLAlchemy 2, brought up to date by Alembic."""
