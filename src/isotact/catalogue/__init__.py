"""What ships as YAML, profiles and cable types, and the reader that explains what is wrong with a document.

No engine looks in here: they get profiles and cable types as arguments.
"""

from isotact.catalogue.folders import SHIPPED, Catalogue, load_text, read_entry, read_file, shipped
from isotact.catalogue.validation import FORMATS, check_document, problems_of, read_document
from isotact.catalogue.yaml_source import Source, read_text

__all__ = [
    "FORMATS",
    "SHIPPED",
    "Catalogue",
    "Source",
    "check_document",
    "load_text",
    "problems_of",
    "read_document",
    "read_entry",
    "read_file",
    "read_text",
    "shipped",
]
