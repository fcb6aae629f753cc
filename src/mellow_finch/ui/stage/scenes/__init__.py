"""What is painted on the stage, a file for each kind of program."""
