"""Why a job failed is a message: a code with values. What older versions said is told as they said it."""

from alembic import op

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    op.execute(
        "UPDATE jobs SET error = json_object("
        "'code', 'as-said.words', 'values', json_object('words', error)) "
        "WHERE error IS NOT NULL"
    )
