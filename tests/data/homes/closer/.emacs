(load-theme 'Aaa t)
(setq visible-bell t)
