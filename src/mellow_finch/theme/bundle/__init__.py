"""What is brought along: opened, told by its content, read into texts and pictures; and the themes of this computer."""
