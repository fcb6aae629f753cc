"""The way in for what comes from outside: archives and pictures, bounded, risky readers in processes of their own."""
