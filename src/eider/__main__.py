"""`python -m eider` is the command `eider`."""

from eider.cli.main import main

if __name__ == "__main__":
    main()
