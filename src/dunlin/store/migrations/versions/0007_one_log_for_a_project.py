"""one log for a project: its targets, its records, and gestures that have an actor"""

import json
from hashlib import blake2b
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = '0007'
down_revision = '0006'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column('projects', sa.Column('revision', sa.Integer(), nullable=False, server_default='0'))
    op.create_table('targets',
    sa.Column('project_id', sa.String(length=32), nullable=False),
    sa.Column('address', sa.String(), nullable=False),
    sa.Column('revision', sa.Integer(), nullable=False),
    sa.ForeignKeyConstraint(['project_id'], ['projects.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('project_id', 'address')
    )
    op.create_table('records',
    sa.Column('project_id', sa.String(length=32), nullable=False),
    sa.Column('address', sa.String(), nullable=False),
    sa.Column('key', sa.String(), nullable=False),
    sa.Column('value', sa.JSON(), nullable=False),
    sa.ForeignKeyConstraint(['project_id'], ['projects.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('project_id', 'address', 'key')
    )
    op.rename_table('gestures', 'track_gestures')
    op.drop_index('gestures_by_state', 'track_gestures')
    op.create_table('gestures',
    sa.Column('id', sa.Integer(), nullable=False),
    sa.Column('project_id', sa.String(length=32), nullable=False),
    sa.Column('key', sa.String(), nullable=False),
    sa.Column('actor', sa.String(), nullable=False),
    sa.Column('state', sa.String(), nullable=False),
    sa.ForeignKeyConstraint(['project_id'], ['projects.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_table('log',
    sa.Column('seq', sa.Integer(), nullable=False),
    sa.Column('project_id', sa.String(length=32), nullable=False),
    sa.Column('revision', sa.Integer(), nullable=False),
    sa.Column('gesture_id', sa.Integer(), nullable=False),
    sa.Column('kind', sa.String(), nullable=False),
    sa.Column('target', sa.String(), nullable=False),
    sa.Column('actor', sa.String(), nullable=False),
    sa.Column('window', sa.String(), nullable=False),
    sa.Column('edit_key', sa.String(), nullable=True),
    sa.Column('made_ms', sa.BigInteger(), nullable=False),
    sa.Column('schema', sa.Integer(), nullable=False),
    sa.Column('operation', sa.JSON(), nullable=False),
    sa.Column('inverse', sa.JSON(), nullable=False),
    sa.Column('touched', sa.JSON(), nullable=False),
    sa.Column('near', sa.JSON(), nullable=False),
    sa.ForeignKeyConstraint(['gesture_id'], ['gestures.id'], ondelete='CASCADE'),
    sa.ForeignKeyConstraint(['project_id'], ['projects.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('seq'),
    sqlite_autoincrement=True
    )
    # The log as it was, with the project's revisions in place of the track's. Nobody knew who edited:
    # whoever asks may undo it.
    op.execute(
        "INSERT INTO gestures (id, project_id, key, actor, state) SELECT g.id, t.project_id, g.key, '', g.state"
        ' FROM track_gestures AS g JOIN tracks AS t ON t.id = g.track_id'
    )
    op.execute(
        'INSERT INTO log (seq, project_id, revision, gesture_id, kind, target, actor, window, made_ms, schema,'
        ' operation, inverse, touched, near)'
        ' SELECT e.seq, t.project_id, row_number() OVER (PARTITION BY t.project_id ORDER BY e.seq), e.gesture_id,'
        " e.kind, 'tracks/' || t.id || '/captions', '', '', e.made_ms, 1, e.operation, e.inverse, e.touched, e.near"
        ' FROM edits AS e JOIN tracks AS t ON t.id = e.track_id ORDER BY e.seq'
    )
    op.execute(
        'INSERT INTO targets (project_id, address, revision)'
        ' SELECT project_id, target, max(revision) FROM log GROUP BY project_id, target'
    )
    # No number of an edit that a page has seen is given again.
    op.execute("UPDATE sqlite_sequence SET seq = (SELECT seq FROM sqlite_sequence WHERE name = 'edits')"
               " WHERE name = 'log' AND seq < (SELECT seq FROM sqlite_sequence WHERE name = 'edits')")
    _move_to_records(op.get_bind())
    op.execute(
        'UPDATE projects SET revision = coalesce((SELECT max(revision) FROM log WHERE project_id = projects.id), 0)'
        ' + words_revision'
    )
    op.execute(
        "INSERT INTO targets (project_id, address, revision) SELECT id, 'transcript', revision FROM projects"
        ' WHERE words_revision > 0'
    )
    _know_untouched(op.get_bind())
    op.drop_table('edits')
    op.drop_table('track_gestures')
    op.drop_table('waivers')
    op.drop_table('specs')
    op.create_index('gestures_by_state', 'gestures', ['project_id', 'actor', 'state', 'id'])
    op.create_index('ix_log_gesture_id', 'log', ['gesture_id'])
    op.create_index('log_by_revision', 'log', ['project_id', 'revision'], unique=True)
    op.create_index('log_by_target', 'log', ['project_id', 'target', 'revision'])
    op.create_index('log_by_key', 'log', ['project_id', 'edit_key'])
    op.drop_index('ix_tracks_judged', 'tracks')
    for table, columns in (
        ('projects', ('title', 'spec_id', 'words_revision', 'speakers', 'terms')),
        ('tracks', ('name', 'language', 'revision', 'spec_id', 'extras', 'judged')),
        ('films', ('shots',)),
    ):
        for column in columns:
            op.drop_column(table, column)


def _move_to_records(bind: sa.Connection) -> None:
    """What stood in columns and tables of its own becomes records; specs belong to the house."""
    rows = []

    def put(project_id: str, address: str, key: str, value: Any) -> None:
        rows.append({'project_id': project_id, 'address': address, 'key': key, 'value': json.dumps(value)})

    house = {id_: json.loads(document) for id_, document in bind.execute(sa.text('SELECT id, document FROM specs'))}
    bind.execute(sa.text("INSERT INTO projects (id, title, created_ms, opened_ms, spec_id) VALUES ('house', '', 0, 0, '')"))
    for id_, document in house.items():
        put('house', 'specs', id_, document)
    for id_, title, spec, speakers, terms in bind.execute(
        sa.text("SELECT id, title, spec_id, speakers, terms FROM projects WHERE id != 'house'")
    ):
        put(id_, 'project', 'title', title)
        put(id_, 'project', 'spec', spec)
        if spec in house:
            put(id_, 'specs', spec, house[spec])
        for at, speaker in enumerate(json.loads(speakers)):
            put(id_, 'speakers', speaker['name'], {'at': at, 'colour': speaker['colour']})
        for at, term in enumerate(json.loads(terms)):
            put(id_, 'terms', term, at)
    for at, (id_, project, name, language, spec, extras) in enumerate(
        bind.execute(sa.text('SELECT id, project_id, name, language, spec_id, extras FROM tracks ORDER BY rowid'))
    ):
        put(project, 'tracks', id_, {
            'at': at, 'name': name, 'language': language, 'spec': spec, 'extras': json.loads(extras or '[]'),
        })
        if spec in house:
            put(project, 'specs', spec, house[spec])
    for project, shots in bind.execute(sa.text('SELECT project_id, shots FROM films WHERE shots IS NOT NULL')):
        if shots == 'null':
            continue
        bind.execute(
            sa.text("INSERT INTO targets (project_id, address, revision) VALUES (:project, 'shots', 0)"),
            {'project': project},
        )
        for shot in json.loads(shots):
            put(project, 'shots', str(shot), True)
    for track, project, caption, rule, reason, in_ms, out_ms, said in bind.execute(
        sa.text(
            'SELECT w.track_id, t.project_id, w.caption_id, w.rule, w.reason, w.in_ms, w.out_ms, w.text'
            ' FROM waivers AS w JOIN tracks AS t ON t.id = w.track_id'
        )
    ):
        put(project, f'tracks/{track}/waivers', f'{rule} {caption}',
            {'reason': reason, 'in_ms': in_ms, 'out_ms': out_ms, 'text': said})
    statement = sa.text(
        'INSERT OR REPLACE INTO records (project_id, address, key, value) VALUES (:project_id, :address, :key, :value)'
    )
    if rows:
        bind.execute(statement, rows)


def _know_untouched(bind: sa.Connection) -> None:
    """Captions that are as they were made have a fingerprint that tells more than words and times now."""
    found = bind.execute(
        sa.text('SELECT track_id, id, in_ms, out_ms, spans, speaker, placement, style, letter_case, made'
                ' FROM captions WHERE made IS NOT NULL')
    )
    for track, id_, in_ms, out_ms, spans, speaker, placement, style, case, made in list(found):
        listed = json.loads(spans)
        said = ''.join(span['text'] for span in listed)
        was = blake2b(f'{in_ms} {out_ms} {said}'.encode(), digest_size=8).hexdigest()
        placed = placement is not None and placement != 'null'
        if was != made or placed or style:
            continue
        told = [[(k, span[k]) for k in _SPAN if span.get(k) not in (None, False, [])] for span in listed]
        content: Any = (in_ms, out_ms, told, speaker, [], style, case)
        now = blake2b(repr(content).encode(), digest_size=8).hexdigest()
        bind.execute(
            sa.text('UPDATE captions SET made = :now WHERE track_id = :track AND id = :id'),
            {'now': now, 'track': track, 'id': id_},
        )


_SPAN = ('text', 'italic', 'bold', 'underline', 'colour', 'background', 'language', 'ruby', 'voice')


def downgrade() -> None:
    raise NotImplementedError('a folder that has one log for a project is not made one of many again')
