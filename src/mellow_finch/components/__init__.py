"""What can be dressed: definitions, generators and read-back."""
