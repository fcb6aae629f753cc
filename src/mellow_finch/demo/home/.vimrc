" notes of the warden
set number
syntax on
