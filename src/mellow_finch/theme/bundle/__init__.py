"""What is imported: opened, told by its content, read into texts and pictures; and the themes of this computer."""
