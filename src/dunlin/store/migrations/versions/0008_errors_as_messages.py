"""why a job failed is a message: a code with values; what older versions said is told as they said it"""

import sqlalchemy as sa
from alembic import op

revision = '0008'
down_revision = '0007'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.execute(
        "UPDATE jobs SET error = json_object("
        "'code', 'as-said.words', 'values', json_object('words', error)) "
        "WHERE error IS NOT NULL"
    )
    with op.batch_alter_table('jobs') as table:
        table.alter_column('error', existing_type=sa.String(), type_=sa.JSON(), existing_nullable=True)


def downgrade() -> None:
    with op.batch_alter_table('jobs') as table:
        table.alter_column('error', existing_type=sa.JSON(), type_=sa.String(), existing_nullable=True)
    op.execute("UPDATE jobs SET error = json_extract(error, '$.values.words') WHERE error IS NOT NULL")
