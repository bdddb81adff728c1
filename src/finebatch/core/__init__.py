"""The rules of baking: values in, values out. No web, no database, no files, no clock."""
