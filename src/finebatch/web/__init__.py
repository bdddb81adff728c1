"""The web application: one router a screen, errors of one shape, nothing but this machine."""
