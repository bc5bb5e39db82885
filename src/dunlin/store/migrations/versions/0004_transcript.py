"""a transcript that is edited: paragraphs, speakers, room between words"""

import sqlalchemy as sa
from alembic import op

revision = '0004'
down_revision = '0003'
branch_labels = None
depends_on = None

ROOM = 1 << 20


def upgrade() -> None:
    op.add_column('words', sa.Column('speaker', sa.String(), nullable=True))
    op.add_column('words', sa.Column('begins', sa.Boolean(), nullable=False, server_default='0'))
    op.add_column('projects', sa.Column('words_revision', sa.Integer(), nullable=False, server_default='0'))
    op.add_column('projects', sa.Column('speakers', sa.JSON(), nullable=False, server_default='[]'))
    with op.batch_alter_table('words') as words:
        words.alter_column('position', type_=sa.BigInteger())
    # A pause of 900 ms began a paragraph when the page still told them by their times.
    op.execute(
        'UPDATE words SET begins = 1 WHERE position = 0 OR start_ms - (SELECT before.end_ms FROM words AS before'
        ' WHERE before.project_id = words.project_id AND before.run = words.run'
        ' AND before.position = words.position - 1) >= 900'
    )
    op.execute(f'UPDATE words SET position = position * {ROOM}')


def downgrade() -> None:
    op.execute(f'UPDATE words SET position = position / {ROOM}')
    for table, columns in (('words', ('speaker', 'begins')), ('projects', ('words_revision', 'speakers'))):
        for column in columns:
            op.drop_column(table, column)
