"""One router a screen."""
