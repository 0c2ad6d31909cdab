"""Changes the program: on a copy to see what that does, and in the file once it is kept."""
