vim.o.number = true
