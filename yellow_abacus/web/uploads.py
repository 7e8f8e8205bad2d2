"""Files under way into the shop: read and checked in the background, saved when the merchant says so.

They live in memory only: a server that stops forgets them, and nothing of them was saved.
"""

import logging
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import Literal
from uuid import uuid4

from yellow_abacus import bring_in
from yellow_abacus.files.columns import Columns
from yellow_abacus.files.tables import Table, UnreadableFileError
from yellow_abacus.files.values import Reading
from yellow_abacus.store.goods import Saved
from yellow_abacus.store.settings import SettingsError
from yellow_abacus.store.shop_file import ShopFile

KEPT_UPLOADS = 6

log = logging.getLogger(__name__)


@dataclass
class Upload:
    """One file. state: what is being done or was done last; progress: the share of that, 0 to 1."""

    id: str
    kind: bring_in.Kind
    name: str
    state: Literal["checking", "checked", "saving", "saved", "failed"] = "checking"
    progress: float = 0.0
    problem: str = ""
    table: Table | None = None
    checked: bring_in.Checked | None = None
    saved: Saved | None = None

    def note_progress(self, share: float) -> None:
        self.progress = share


class Uploads:
    def __init__(self, shop_file: ShopFile) -> None:
        self._shop_file = shop_file
        self._found: OrderedDict[str, Upload] = OrderedDict()
        self._workers = ThreadPoolExecutor(max_workers=1, thread_name_prefix="bring-in")

    def get(self, upload_id: str) -> Upload | None:
        return self._found.get(upload_id)

    def start(self, kind: bring_in.Kind, name: str, data: bytes) -> Upload:
        """Take a file and check it in the background."""
        upload = Upload(uuid4().hex, kind, name)
        self._found[upload.id] = upload
        while len(self._found) > KEPT_UPLOADS:
            self._found.popitem(last=False)

        def check() -> None:
            upload.checked = bring_in.check(self._shop_file, kind, data, progress=upload.note_progress)
            upload.table = upload.checked.table

        self._run(upload, "checking", "checked", check)
        return upload

    def recheck(self, upload: Upload, columns: Columns, reading: Reading) -> None:
        """Check the same file again with columns and reading chosen by hand."""

        def check() -> None:
            assert upload.table is not None
            upload.checked = bring_in.check_table(
                self._shop_file, upload.kind, upload.table, columns, reading, upload.note_progress
            )

        self._run(upload, "checking", "checked", check)

    def save(self, upload: Upload, *, good_rows_only: bool) -> None:
        def save() -> None:
            assert upload.checked is not None
            upload.saved = bring_in.save(
                self._shop_file, upload.checked, good_rows_only=good_rows_only, progress=upload.note_progress
            )

        self._run(upload, "saving", "saved", save)

    def _run(
        self,
        upload: Upload,
        doing: Literal["checking", "saving"],
        done: Literal["checked", "saved"],
        work: Callable[[], None],
    ) -> None:
        upload.state, upload.progress, upload.problem = doing, 0.0, ""

        def run() -> None:
            try:
                work()
                upload.state = done
            except (UnreadableFileError, bring_in.RejectedRowsError, SettingsError) as error:
                upload.problem, upload.state = str(error), "failed"
            except Exception:
                log.exception("bringing in %s failed", upload.name)
                upload.problem = "Something went wrong here, and nothing was brought in. The server's log tells more."
                upload.state = "failed"

        self._workers.submit(run)
