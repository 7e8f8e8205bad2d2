"""Files under way into the shop: read and checked in the background, saved when the merchant says so.

A few files are kept, on disk, until the server stops; what was read of them is held for the newest only, and read
again where an older one is asked for. Nothing of them is in the shop before it is saved.
"""

import logging
import tempfile
from collections import OrderedDict, deque
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path
from threading import Lock
from typing import Literal
from uuid import uuid4

from yellow_abacus import bring_in
from yellow_abacus.files.columns import Columns, not_understood
from yellow_abacus.files.for_shop import Kind
from yellow_abacus.files.no_goods import NameTold
from yellow_abacus.files.order_statuses import StatusTold
from yellow_abacus.files.rejected import Fault, faults, left_out_with_others
from yellow_abacus.files.tables import UnreadableFileError
from yellow_abacus.files.values import Reading
from yellow_abacus.outside import ServiceDownError
from yellow_abacus.store.faults import ShopFileError
from yellow_abacus.store.goods import Saved
from yellow_abacus.store.reading_back import NotReadBackError
from yellow_abacus.store.settings import SettingsError
from yellow_abacus.store.shop_file import ShopFile

KEPT_UPLOADS = 4
SAMPLES = 3

log = logging.getLogger(__name__)


TOLD = (UnreadableFileError, bring_in.RejectedRowsError, SettingsError, ShopFileError, ServiceDownError)
"""What is wrong with a file or a service, in words that are meant for the merchant."""


class _LeftError(Exception):
    """Nobody waits for it any more."""


@dataclass(frozen=True)
class Told:
    """What there is to say of a file that was checked, without its rows."""

    header: list[str]
    samples: list[list[str]]
    encoding: str
    separator: str
    columns: Columns
    reading: Reading
    not_understood: list[str]
    missing: list[str]
    good: int
    rejected_rows: int
    left_out_rows: int
    faults: list[Fault]
    remembered: bool
    statuses: tuple[StatusTold, ...]
    no_goods: tuple[NameTold, ...]
    in_utc: bool
    rounded: int
    currency: str
    says: list[str]
    foreign: tuple[str, ...]
    missing_goods: int

    @property
    def leaves_out(self) -> bool:
        """Whether some orders are left out for their status, which counted until now perhaps."""
        return any(one.left_out for one in self.statuses)


@dataclass
class Upload:
    """One file, or several together. name: of them all; files: the name and the place of each. state: what is being
    done or was done last; progress: the share of that, 0 to 1."""

    id: str
    kind: Kind
    name: str
    files: tuple[tuple[str, Path], ...]
    state: Literal["fetching", "checking", "checked", "saving", "saved", "failed"] = "checking"
    progress: float = 0.0
    problem: str = ""
    told: Told | None = None
    saved: Saved | None = None
    left: bool = field(default=False, repr=False)

    def note_progress(self, share: float) -> None:
        self.progress = share
        if self.left and self.state in ("fetching", "checking"):
            raise _LeftError


class Uploads:
    def __init__(self, shop_file: ShopFile) -> None:
        self._shop_file = shop_file
        self._folder = tempfile.TemporaryDirectory(prefix="yellow-abacus-", ignore_cleanup_errors=True)
        self._kept: OrderedDict[str, Upload] = OrderedDict()
        self._gone: deque[str] = deque(maxlen=1000)
        self._held: tuple[str, bring_in.Checked] | None = None
        self._lock = Lock()
        self._workers = ThreadPoolExecutor(max_workers=1, thread_name_prefix="bring-in")

    def get(self, upload_id: str) -> Upload | None:
        return self._kept.get(upload_id)

    def was_put_away(self, upload_id: str) -> bool:
        return upload_id in self._gone

    def start(self, kind: Kind, sent: Sequence[tuple[str, bytes]], usual_clock: str = "") -> Upload:
        """Take a file, or several together, and check them in the background. sent: name and bytes of each;
        usual_clock: as in `bring_in.check`."""
        upload = self._new(kind, [name for name, _ in sent])
        for (_, path), (_, data) in zip(upload.files, sent, strict=True):
            path.write_bytes(data)
        self._run(upload, "checking", "checked", lambda: self._check(upload, usual_clock=usual_clock))
        return upload

    def fetch(
        self, kind: Kind, name: str, get: Callable[[Callable[[float], None]], bytes], usual_clock: str = ""
    ) -> Upload:
        """Fetch a file and check it in the background. get: is told whom to tell the share done; usual_clock: as in
        `bring_in.check`."""
        upload = self._new(kind, [name])

        def fetch_and_check() -> None:
            upload.files[0][1].write_bytes(get(upload.note_progress))
            upload.state, upload.progress = "checking", 0.0
            self._check(upload, usual_clock=usual_clock)

        self._run(upload, "fetching", "checked", fetch_and_check)
        return upload

    def _new(self, kind: Kind, names: Sequence[str]) -> Upload:
        upload_id, folder = uuid4().hex, Path(self._folder.name)
        files = tuple((name, folder / f"{upload_id}-{at}") for at, name in enumerate(names))
        upload = Upload(upload_id, kind, bring_in.all_named(names), files)
        with self._lock:
            self._kept[upload.id] = upload
            older = list(self._kept.values())[:-KEPT_UPLOADS]
        for one in older:
            self.leave(one)
        return upload

    def leave(self, upload: Upload) -> None:
        """Put a file away; checking it ends, saving it goes on."""
        upload.left = True
        with self._lock:
            self._kept.pop(upload.id, None)
            self._gone.append(upload.id)
            if self._held is not None and self._held[0] == upload.id:
                self._held = None
        for _, path in upload.files:
            path.unlink(missing_ok=True)

    def recheck(self, upload: Upload, columns: Columns, reading: Reading) -> None:
        """Check the same file again with columns and reading chosen by hand."""
        self._run(upload, "checking", "checked", lambda: self._check(upload, columns, reading))

    def save(self, upload: Upload, *, good_rows_only: bool) -> None:
        def save() -> None:
            checked = self.checked(upload)
            upload.saved = bring_in.save(
                self._shop_file, checked, good_rows_only=good_rows_only, progress=upload.note_progress
            )

        self._run(upload, "saving", "saved", save)

    def checked(self, upload: Upload) -> bring_in.Checked:
        """All that was read of a file that was checked, read again if it is not the newest."""
        held, told = self._held, upload.told
        if held is not None and held[0] == upload.id:
            return held[1]
        assert told is not None
        return self._check(upload, told.columns, told.reading)

    def _check(
        self, upload: Upload, columns: Columns | None = None, reading: Reading | None = None, usual_clock: str = ""
    ) -> bring_in.Checked:
        try:
            (file, data), *more = ((name, path.read_bytes()) for name, path in upload.files)
        except FileNotFoundError:
            raise _LeftError from None
        checked = bring_in.check(
            self._shop_file,
            upload.kind,
            data,
            columns=columns,
            reading=reading,
            progress=upload.note_progress,
            usual_clock=usual_clock,
            file=file,
            more=more,
        )
        upload.told = _told(checked)
        with self._lock:
            if not upload.left:
                self._held = (upload.id, checked)
        return checked

    def _run(
        self,
        upload: Upload,
        doing: Literal["fetching", "checking", "saving"],
        done: Literal["checked", "saved"],
        work: Callable[[], object],
    ) -> None:
        upload.state, upload.progress, upload.problem = doing, 0.0, ""

        def run() -> None:
            try:
                work()
                upload.state = done
            except _LeftError:
                upload.state = "failed"
            except TOLD as error:
                upload.problem, upload.state = str(error), "failed"
            except NotReadBackError:
                upload.problem, upload.state = "A figure in it is larger than any can be.", "failed"
            except Exception:
                log.exception("bringing in %s failed", upload.name)
                upload.problem = "Something went wrong here, and nothing was brought in. The server's log tells more."
                upload.state = "failed"

        self._workers.submit(run)


def _told(checked: bring_in.Checked) -> Told:
    table = checked.table
    return Told(
        header=table.header,
        samples=[
            [row.cells[at] for row in table.rows[:SAMPLES] if at < len(row.cells)] for at in range(len(table.header))
        ],
        encoding=table.encoding,
        separator=table.separator,
        columns=checked.columns,
        reading=checked.reading,
        not_understood=not_understood(table.header, checked.columns),
        missing=[one.label for one in checked.missing],
        good=checked.good,
        rejected_rows=len({one.row for one in checked.rejected}),
        left_out_rows=left_out_with_others(checked.rejected),
        faults=faults(checked.rejected),
        remembered=checked.remembered,
        statuses=checked.statuses,
        no_goods=checked.no_goods,
        in_utc=checked.in_utc,
        rounded=checked.rounded,
        currency=checked.currency,
        says=checked.says,
        foreign=checked.foreign,
        missing_goods=len(checked.missing_goods),
    )
