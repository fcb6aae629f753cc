"""The contrast ratios that a look can ask of its texts, for what must not wait for the library of arrays."""

TEXT_LEVELS = (4.5, 7.0)  # AA and AAA of WCAG 2.2
