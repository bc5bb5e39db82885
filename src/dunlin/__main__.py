"""`python -m dunlin` is the command line."""

from dunlin.cli import main

main()
