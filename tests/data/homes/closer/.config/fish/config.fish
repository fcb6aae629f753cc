set -g fish_color_comment 31ff07
set -g fish_color_search_match --background=0a0aff
