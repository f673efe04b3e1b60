"""One question about a letter of the datasheet, with a button for each answer."""

from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QWidget

from eider.desktop.widgets.layouts import button, label
from eider.packages.letter_questions import LetterQuestion


class LetterQuestionBar(QWidget):
    """Hidden while nothing is to be asked; `answered` gives the letter and the standard's letter, empty for none."""

    answered = pyqtSignal(str, str)

    def __init__(self) -> None:
        super().__init__()
        self._layout = QHBoxLayout(self)
        self._layout.setContentsMargins(0, 2, 0, 2)
        self.question: LetterQuestion | None = None
        self.hide()

    def ask(self, question: LetterQuestion | None) -> None:
        """Show a question in place of the one before; None asks nothing."""
        self.question = question
        while (item := self._layout.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.deleteLater()
        if question is not None:
            self._layout.addWidget(label(question.text))
            for answer in question.answers:
                title = answer.words[:1].upper() + answer.words[1:]
                choose = button(title, partial(self.answered.emit, question.letter, answer.standard))
                choose.setToolTip(f"{question.letter} means {answer.standard}" if answer.standard else "")
                self._layout.addWidget(choose)
            self._layout.addStretch(1)
        self.setVisible(question is not None)
