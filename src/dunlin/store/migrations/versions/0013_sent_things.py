"""what of packing lists was sent to hosts of films"""

import sqlalchemy as sa
from alembic import op

revision = '0013'
down_revision = '0012'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        'sent',
        sa.Column('project_id', sa.String(), nullable=False),
        sa.Column('delivery_id', sa.String(length=64), nullable=False),
        sa.Column('item_id', sa.String(length=64), nullable=False),
        sa.Column('connection', sa.String(length=64), nullable=False),
        sa.Column('sha256', sa.String(length=64), nullable=False),
        sa.Column('film', sa.String(), nullable=True),
        sa.Column('language', sa.String(), nullable=True),
        sa.Column('version', sa.String(), nullable=True),
        sa.Column('is_open', sa.Boolean(), nullable=False),
        sa.Column('page', sa.String(), nullable=False),
        sa.Column('begun', sa.String(), nullable=True),
        sa.Column('sent_ms', sa.BigInteger(), nullable=True),
        sa.ForeignKeyConstraint(['project_id'], ['projects.id'], ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('project_id', 'delivery_id', 'item_id'),
    )


def downgrade() -> None:
    op.drop_table('sent')
