"""a project may have no film, or several one after the other; shot changes and jobs are a film's"""

import sqlalchemy as sa
from alembic import op

revision = '0010'
down_revision = '0009'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.rename_table('films', 'films_before')
    op.create_table(
        'films',
        sa.Column('id', sa.String(length=32), nullable=False),
        sa.Column('project_id', sa.String(length=32), nullable=False),
        sa.Column('came_ms', sa.BigInteger(), nullable=False),
        sa.Column('label', sa.String(), nullable=False),
        sa.Column('size_bytes', sa.Integer(), nullable=False),
        sa.Column('facts', sa.JSON(), nullable=False),
        sa.Column('has_copy', sa.Boolean(), nullable=False),
        sa.Column('sound_ends_ms', sa.Integer(), nullable=True),
        sa.Column('picture_ends_ms', sa.Integer(), nullable=True),
        sa.ForeignKeyConstraint(['project_id'], ['projects.id'], ondelete='CASCADE'),
        sa.PrimaryKeyConstraint('id'),
    )
    op.create_index('ix_films_project_id', 'films', ['project_id'])
    # A film's folder is named after it, and those that are there after their projects.
    op.execute(
        "INSERT INTO films (id, project_id, came_ms, label, size_bytes, facts, has_copy,"
        " sound_ends_ms, picture_ends_ms)"
        " SELECT project_id, project_id, created_ms, label, size_bytes, facts, has_copy,"
        " sound_ends_ms, picture_ends_ms"
        " FROM films_before JOIN projects ON projects.id = films_before.project_id"
    )
    op.drop_table('films_before')
    op.execute(
        "INSERT INTO records (project_id, address, key, value)"
        " SELECT project_id, 'project', 'film', json_quote(id) FROM films"
    )
    op.add_column('jobs', sa.Column('film_id', sa.String(length=32), nullable=True))
    op.execute("UPDATE jobs SET film_id = project_id")
    for table, column in (('records', 'address'), ('targets', 'address'), ('log', 'target')):
        op.execute(
            f"UPDATE {table} SET {column} = 'films/' || project_id || '/shots' WHERE {column} = 'shots'"
        )


def downgrade() -> None:
    for table, column in (('records', 'address'), ('targets', 'address'), ('log', 'target')):
        op.execute(
            f"UPDATE {table} SET {column} = 'shots'"
            f" WHERE {column} = 'films/' || project_id || '/shots'"
        )
    op.drop_column('jobs', 'film_id')
    op.execute("DELETE FROM films WHERE id != project_id")
    op.execute("DELETE FROM records WHERE address = 'project' AND key = 'film'")
    op.drop_index('ix_films_project_id', 'films')
    with op.batch_alter_table("films") as films:
        films.drop_column("id")
        films.drop_column("came_ms")
        films.create_primary_key('pk_films', ['project_id'])
