"""A station of several views, one of them on the bench; the letter of each changes to it."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QStackedWidget, QVBoxLayout, QWidget

from half_fold.desk.kit.tabs import Tabs
from half_fold.desk.stations.station import Station
from half_fold.desk.workpiece import Workpiece


class ViewedStation(Station):
    """``names`` are the views in order, each with its letter; ``show_views`` puts their widgets up."""

    names: Sequence[tuple[str, str]] = ()

    def __init__(self, session: Workpiece) -> None:
        super().__init__(session)
        self.views = QStackedWidget()
        self.shelf = Tabs(self.names, self.show_view)
        self.tabs = self.shelf.names
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.shelf)
        column.addWidget(self.views, 1)

    def show_views(self, widgets: Sequence[QWidget]) -> None:
        """Have these widgets as the views, the first of them open."""
        for widget in widgets:
            self.views.addWidget(widget)
        self.show_view(0)

    @property
    def view(self) -> QWidget:
        """What the open view takes keys with."""
        widget = self.views.currentWidget()
        assert widget is not None
        return widget

    def show_view(self, index: int) -> None:
        """Have that view on the bench."""
        self.views.setCurrentIndex(index)
        self.shelf.show_at(index)
        self.setFocusProxy(self.view)
        self.refresh()
        self.view.setFocus()
        self.turned.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        letters = [key for _, key in self.names]
        if event.text().upper() in letters and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.show_view(letters.index(event.text().upper()))
        else:
            super().keyPressEvent(event)

    def take_focus(self) -> None:
        self.view.setFocus(Qt.FocusReason.OtherFocusReason)
