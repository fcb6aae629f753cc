config.load_autoconfig()
c.colors.completion.fg = '#31ff07'
