// profile
