"""Write the API's OpenAPI document; the interface's types are generated from it."""

import json
import sys

from yonderstat.records import Archive, open_engine
from yonderstat.web import all_operations
from yonderstat.web.api import openapi_document

if __name__ == "__main__":
    # The engine connects when first used, and nothing here uses it.
    operations = all_operations(Archive(open_engine("postgresql://nobody@127.0.0.1/none")))
    json.dump(openapi_document(operations), sys.stdout, ensure_ascii=False, indent=1, sort_keys=True)
    print()
