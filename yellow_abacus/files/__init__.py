"""Reading and writing open formats: one module a format or table. docs/files.md describes every one of them."""
