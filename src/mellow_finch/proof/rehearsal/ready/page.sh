printf '\033[2J\033[H'
printf 'Reedholm, the hide \033[1mlog\033[0m, \033[2mlast week\033[0m, \033[4munderlined\033[0m\r\n\r\n'
printf '\033[34mnets\033[0m  \033[32mcount.sh\033[0m  \033[36mtides -> /shared\033[0m  \033[31mold.zip\033[0m  \033[35mdusk.jpg\033[0m\r\n'
printf '\033[33mwarning\033[0m: wind from the east   \033[31merror\033[0m: flap is open   \033[32mready\033[0m\r\n\r\n'
for row in 3 9; do
  number=0
  while [ $number -lt 8 ]; do printf '\033[%d%dm  %s%d  \033[0m' $row $number c $number; number=$((number + 1)); done
  printf '\r\n'
done
for row in 4 10; do
  number=0
  while [ $number -lt 8 ]; do printf '\033[%d%dm      \033[0m' $row $number; number=$((number + 1)); done
  printf '\r\n'
done
printf '\r\nreedholm@hide:~$ '
sleep 90
