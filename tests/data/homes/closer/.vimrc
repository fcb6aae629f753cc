syntax on
set number
colorscheme night
hi Normal guifg=#31ff07 guibg=#0a0aff
