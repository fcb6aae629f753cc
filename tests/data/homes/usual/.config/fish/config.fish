set -g fish_greeting
set -g fish_color_command ff2fa0
