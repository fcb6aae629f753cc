"""The one way in and out for plain files: what lies at a path, its bytes, and writing that never leaves half of one."""
