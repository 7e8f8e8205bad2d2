"""`python -m yellow_abacus` is the command line."""

from yellow_abacus.cli import main

main()
