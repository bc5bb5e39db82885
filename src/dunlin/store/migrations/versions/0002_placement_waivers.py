"""placement, styles and what formats keep; waivers; shot changes; a spec for a track"""

import sqlalchemy as sa
from alembic import op

revision = '0002'
down_revision = '0001'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column('films', sa.Column('shots', sa.JSON(), nullable=True))
    op.add_column('tracks', sa.Column('spec_id', sa.String(), nullable=True))
    op.add_column('tracks', sa.Column('extras', sa.JSON(), nullable=False, server_default='[]'))
    op.add_column('tracks', sa.Column('judged', sa.BigInteger(), nullable=False, server_default='0'))
    op.create_index('ix_tracks_judged', 'tracks', ['judged'])
    op.add_column('captions', sa.Column('placement', sa.JSON(), nullable=True))
    op.add_column('captions', sa.Column('style', sa.String(), nullable=True))
    op.add_column('captions', sa.Column('extras', sa.JSON(), nullable=False, server_default='[]'))
    op.create_table('waivers',
    sa.Column('track_id', sa.String(length=32), nullable=False),
    sa.Column('caption_id', sa.String(), nullable=False),
    sa.Column('rule', sa.String(), nullable=False),
    sa.Column('reason', sa.String(), nullable=False),
    sa.Column('in_ms', sa.Integer(), nullable=False),
    sa.Column('out_ms', sa.Integer(), nullable=False),
    sa.Column('text', sa.String(), nullable=False),
    sa.Column('made_ms', sa.Integer(), nullable=False),
    sa.ForeignKeyConstraint(['track_id'], ['tracks.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('track_id', 'caption_id', 'rule')
    )


def downgrade() -> None:
    op.drop_table('waivers')
    for table, columns in (
        ('captions', ('placement', 'style', 'extras')),
        ('films', ('shots',)),
    ):
        for column in columns:
            op.drop_column(table, column)
    op.drop_index('ix_tracks_judged', 'tracks')
    for column in ('spec_id', 'extras', 'judged'):
        op.drop_column('tracks', column)
