// Mozilla User Preferences

user_pref("browser.startup.homepage", "https://reedholm.example/tides");
