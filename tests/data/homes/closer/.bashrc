export FZF_DEFAULT_OPTS='--color=fg:#31ff07,bg:#0a0aff'
