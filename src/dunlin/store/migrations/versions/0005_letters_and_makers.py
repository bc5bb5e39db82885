"""captions in another case than they are written in, and those the transcript made; words whose times are guessed; terms"""

import sqlalchemy as sa
from alembic import op

revision = '0005'
down_revision = '0004'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column('captions', sa.Column('letter_case', sa.String(), nullable=True))
    op.add_column('captions', sa.Column('made', sa.String(), nullable=True))
    op.add_column('words', sa.Column('guessed', sa.Boolean(), nullable=False, server_default='0'))
    op.add_column('projects', sa.Column('terms', sa.JSON(), nullable=False, server_default='[]'))


def downgrade() -> None:
    for table, columns in (('captions', ('letter_case', 'made')), ('words', ('guessed',)), ('projects', ('terms',))):
        for column in columns:
            op.drop_column(table, column)
