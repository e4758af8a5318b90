"""What reading a zip file may end in."""

import zipfile
import zlib

UNREADABLE_ZIP = (zipfile.BadZipFile, zlib.error, KeyError, EOFError, OSError, RuntimeError, ValueError)
"""What zipfile raises for a file that is none, is cut or damaged, or is packed in a way it does not know.

A ValueError is a seek to before the file, or what is in it is not what should be.
"""
