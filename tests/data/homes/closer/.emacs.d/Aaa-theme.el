(deftheme Aaa)
(custom-theme-set-faces 'Aaa
 '(default ((t (:foreground "#31ff07")))))
(provide-theme 'Aaa)
