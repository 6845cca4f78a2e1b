"""The JSON schema of the exported document, as it stands in docs/."""

import json

from django.core.management.base import BaseCommand

from cambrel.owners.sections import document_schema


class Command(BaseCommand):
    help = "Print the JSON schema of the exported document."

    def handle(self, **options: object) -> None:
        self.stdout.write(json.dumps(document_schema(), indent=2, ensure_ascii=False))
