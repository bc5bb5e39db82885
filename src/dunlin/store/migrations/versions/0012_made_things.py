"""what was made of packing lists; burns that wait say how they are written as one thing"""

import sqlalchemy as sa
from alembic import op

revision = '0012'
down_revision = '0011'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        'made',
        sa.Column('project_id', sa.String(), nullable=False),
        sa.Column('delivery_id', sa.String(length=64), nullable=False),
        sa.Column('item_id', sa.String(length=64), nullable=False),
        sa.Column('job_id', sa.String(length=32), nullable=False),
        sa.Column('file', sa.String(), nullable=False),
        sa.Column('name', sa.String(), nullable=False),
        sa.Column('size_bytes', sa.BigInteger(), nullable=False),
        sa.Column('sha256', sa.String(length=64), nullable=False),
        sa.Column('made_ms', sa.BigInteger(), nullable=False),
        sa.Column('made_of', sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(['project_id'], ['projects.id'], ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('project_id', 'delivery_id', 'item_id'),
    )
    op.execute(
        "UPDATE jobs SET parameters = json_set(parameters, '$.encoding', json_object("
        "'crf', json_extract(parameters, '$.crf'), 'height', json_extract(parameters, '$.height')))"
        " WHERE kind = 'burn' AND json_extract(parameters, '$.encoding') IS NULL"
    )


def downgrade() -> None:
    op.drop_table('made')
