BEGIN TRANSACTION;
CREATE TABLE alembic_version (
	version_num VARCHAR(32) NOT NULL, 
	CONSTRAINT alembic_version_pkc PRIMARY KEY (version_num)
);
INSERT INTO "alembic_version" VALUES('0006');
CREATE TABLE captions (
	track_id VARCHAR(32) NOT NULL, 
	id VARCHAR NOT NULL, 
	in_ms INTEGER NOT NULL, 
	out_ms INTEGER NOT NULL, 
	speaker VARCHAR, 
	spans JSON NOT NULL, placement JSON, style VARCHAR, extras JSON DEFAULT '[]' NOT NULL, locked BOOLEAN DEFAULT '0' NOT NULL, letter_case VARCHAR, made VARCHAR, 
	PRIMARY KEY (track_id, id), 
	FOREIGN KEY(track_id) REFERENCES tracks (id) ON DELETE CASCADE
);
INSERT INTO "captions" VALUES('0d1be80eaa844b519e9ca890f859af35','c',2000,2900,NULL,'[{"text": "Twice"}]','null',NULL,'[]',1,NULL,NULL);
INSERT INTO "captions" VALUES('0d1be80eaa844b519e9ca890f859af35','a',0,900,NULL,'[{"text": "Hark, the fog"}]','null',NULL,'[]',0,NULL,NULL);
INSERT INTO "captions" VALUES('0d1be80eaa844b519e9ca890f859af35','b',1040,1960,NULL,'[{"text": "Ring the bell", "italic": true}]','null',NULL,'[]',0,NULL,NULL);
INSERT INTO "captions" VALUES('72d52cbae05b42278e43e4ab3cf0ee2f','7f8c84613a08',0,3200,NULL,'[{"text": "Hark, the fog"}]','null',NULL,'[]',0,NULL,'230946f041d338b5');
CREATE TABLE edits (
	seq INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT, 
	track_id VARCHAR(32) NOT NULL, 
	revision INTEGER NOT NULL, 
	gesture_id INTEGER NOT NULL, 
	kind VARCHAR NOT NULL, 
	actor VARCHAR NOT NULL, 
	made_ms INTEGER NOT NULL, 
	operation JSON NOT NULL, 
	inverse JSON NOT NULL, 
	touched JSON NOT NULL, 
	near JSON NOT NULL, 
	FOREIGN KEY(gesture_id) REFERENCES gestures (id), 
	FOREIGN KEY(track_id) REFERENCES tracks (id) ON DELETE CASCADE
);
INSERT INTO "edits" VALUES(1,'0d1be80eaa844b519e9ca890f859af35',1,1,'edit','tab-one',1795650612917,'{"captions": [{"id": "a", "in_ms": 0, "out_ms": 900, "spans": [{"text": "Hark", "italic": false, "bold": false, "underline": false, "colour": null, "background": null, "language": null, "ruby": null, "voice": null, "extras": []}], "speaker": null, "placement": null, "style": null, "extras": [], "locked": false, "case": null, "made": null}, {"id": "b", "in_ms": 1000, "out_ms": 1900, "spans": [{"text": "Ring the bell", "italic": true, "bold": false, "underline": false, "colour": null, "background": null, "language": null, "ruby": null, "voice": null, "extras": []}], "speaker": null, "placement": null, "style": null, "extras": [], "locked": false, "case": null, "made": null}, {"id": "c", "in_ms": 2000, "out_ms": 2900, "spans": [{"text": "Twice", "italic": false, "bold": false, "underline": false, "colour": null, "background": null, "language": null, "ruby": null, "voice": null, "extras": []}], "speaker": null, "placement": null, "style": null, "extras": [], "locked": false, "case": null, "made": null}], "kind": "insert-captions"}','{"captions": ["a", "b", "c"], "kind": "delete-captions"}','["a", "b", "c"]','[]');
INSERT INTO "edits" VALUES(2,'0d1be80eaa844b519e9ca890f859af35',2,2,'edit','tab-one',1795650612946,'{"caption": "a", "text": "Hark,", "kind": "rewrite-text"}','{"caption": "a", "spans": [{"text": "Hark", "italic": false, "bold": false, "underline": false, "colour": null, "background": null, "language": null, "ruby": null, "voice": null, "extras": []}], "kind": "set-text"}','["a"]','["b"]');
INSERT INTO "edits" VALUES(3,'0d1be80eaa844b519e9ca890f859af35',3,2,'edit','tab-one',1795650612980,'{"caption": "a", "text": "Hark, the", "kind": "rewrite-text"}','{"caption": "a", "spans": [{"text": "Hark,", "italic": false, "bold": false, "underline": false, "colour": null, "background": null, "language": null, "ruby": null, "voice": null, "extras": []}], "kind": "set-text"}','["a"]','["b"]');
INSERT INTO "edits" VALUES(4,'0d1be80eaa844b519e9ca890f859af35',4,2,'edit','tab-one',1795650613014,'{"caption": "a", "text": "Hark, the fog", "kind": "rewrite-text"}','{"caption": "a", "spans": [{"text": "Hark, the", "italic": false, "bold": false, "underline": false, "colour": null, "background": null, "language": null, "ruby": null, "voice": null, "extras": []}], "kind": "set-text"}','["a"]','["b"]');
INSERT INTO "edits" VALUES(5,'0d1be80eaa844b519e9ca890f859af35',5,3,'edit','tab-one',1795650613042,'{"times": [{"caption": "b", "in_ms": 1040, "out_ms": 1960}], "kind": "retime-captions"}','{"times": [{"caption": "b", "in_ms": 1000, "out_ms": 1900}], "kind": "retime-captions"}','["b"]','["a", "c"]');
INSERT INTO "edits" VALUES(6,'0d1be80eaa844b519e9ca890f859af35',6,4,'edit','tab-one',1795650613069,'{"captions": ["c"], "locked": true, "kind": "lock-captions"}','{"captions": ["c"], "locked": false, "kind": "lock-captions"}','["c"]','["b"]');
INSERT INTO "edits" VALUES(7,'0d1be80eaa844b519e9ca890f859af35',7,5,'edit','tab-one',1795650613094,'{"caption": "b", "spans": [{"text": "Ring it", "italic": false, "bold": true, "underline": false, "colour": null, "background": null, "language": null, "ruby": null, "voice": null, "extras": []}], "kind": "set-text"}','{"caption": "b", "spans": [{"text": "Ring the bell", "italic": true, "bold": false, "underline": false, "colour": null, "background": null, "language": null, "ruby": null, "voice": null, "extras": []}], "kind": "set-text"}','["b"]','["a", "c"]');
INSERT INTO "edits" VALUES(8,'0d1be80eaa844b519e9ca890f859af35',8,5,'undo','tab-one',1795650613135,'{"caption": "b", "spans": [{"text": "Ring the bell", "italic": true, "bold": false, "underline": false, "colour": null, "background": null, "language": null, "ruby": null, "voice": null, "extras": []}], "kind": "set-text"}','{"caption": "b", "spans": [{"text": "Ring it", "italic": false, "bold": true, "underline": false, "colour": null, "background": null, "language": null, "ruby": null, "voice": null, "extras": []}], "kind": "set-text"}','["b"]','["a", "c"]');
INSERT INTO "edits" VALUES(9,'72d52cbae05b42278e43e4ab3cf0ee2f',1,6,'edit','tab-one',1795650613755,'{"removed": [], "captions": [{"id": "7f8c84613a08", "in_ms": 0, "out_ms": 3200, "spans": [{"text": "Hark, the fog", "italic": false, "bold": false, "underline": false, "colour": null, "background": null, "language": null, "ruby": null, "voice": null, "extras": []}], "speaker": null, "placement": null, "style": null, "extras": [], "locked": false, "case": null, "made": "230946f041d338b5"}], "kind": "replace-captions"}','{"removed": ["7f8c84613a08"], "captions": [], "kind": "replace-captions"}','["7f8c84613a08"]','[]');
CREATE TABLE films (
	project_id VARCHAR(32) NOT NULL, 
	label VARCHAR NOT NULL, 
	size_bytes INTEGER NOT NULL, 
	facts JSON NOT NULL, 
	has_copy BOOLEAN NOT NULL, 
	sound_ends_ms INTEGER, shots JSON, picture_ends_ms INTEGER, 
	PRIMARY KEY (project_id), 
	FOREIGN KEY(project_id) REFERENCES projects (id) ON DELETE CASCADE
);
INSERT INTO "films" VALUES('8f087e27e75040e98b8d2a5527458323','The Fog Bell.mp4',40687,'{"duration_ms": 3000, "container": "mp4", "video_codec": "h264", "audio_codec": "aac", "width": 160, "height": 90, "rotation": 0, "frame_rate": {"numerator": 25, "denominator": 1}, "frame_rate_varies": false, "audio_streams": 1, "browser_plays": true}',0,NULL,'[0, 1480]',NULL);
CREATE TABLE gestures (
	id INTEGER NOT NULL, 
	track_id VARCHAR(32) NOT NULL, 
	"key" VARCHAR NOT NULL, 
	state VARCHAR NOT NULL, 
	PRIMARY KEY (id), 
	FOREIGN KEY(track_id) REFERENCES tracks (id) ON DELETE CASCADE
);
INSERT INTO "gestures" VALUES(1,'0d1be80eaa844b519e9ca890f859af35','g1','done');
INSERT INTO "gestures" VALUES(2,'0d1be80eaa844b519e9ca890f859af35','typing','done');
INSERT INTO "gestures" VALUES(3,'0d1be80eaa844b519e9ca890f859af35','move','done');
INSERT INTO "gestures" VALUES(4,'0d1be80eaa844b519e9ca890f859af35','lock','done');
INSERT INTO "gestures" VALUES(5,'0d1be80eaa844b519e9ca890f859af35','styled','undone');
INSERT INTO "gestures" VALUES(6,'72d52cbae05b42278e43e4ab3cf0ee2f','made','done');
CREATE TABLE jobs (
	id VARCHAR(32) NOT NULL, 
	project_id VARCHAR(32) NOT NULL, 
	kind VARCHAR NOT NULL, 
	state VARCHAR NOT NULL, 
	progress DOUBLE NOT NULL, 
	step VARCHAR NOT NULL, 
	parameters JSON NOT NULL, 
	result JSON, 
	error VARCHAR, 
	attempts INTEGER NOT NULL, 
	cancel_asked BOOLEAN NOT NULL, 
	created_ms INTEGER NOT NULL, 
	started_ms INTEGER, 
	ended_ms INTEGER, 
	beat_ms INTEGER, 
	version BIGINT NOT NULL, 
	PRIMARY KEY (id), 
	FOREIGN KEY(project_id) REFERENCES projects (id) ON DELETE CASCADE
);
CREATE TABLE projects (
	id VARCHAR(32) NOT NULL, 
	title VARCHAR NOT NULL, 
	created_ms INTEGER NOT NULL, 
	opened_ms INTEGER NOT NULL, 
	spec_id VARCHAR NOT NULL, 
	words_run VARCHAR, words_revision INTEGER DEFAULT '0' NOT NULL, speakers JSON DEFAULT '[]' NOT NULL, terms JSON DEFAULT '[]' NOT NULL, 
	PRIMARY KEY (id)
);
INSERT INTO "projects" VALUES('8f087e27e75040e98b8d2a5527458323','The Fog Bell',1795650612686,1795650612686,'broadcast','written',1,'[{"name": "Ilse Varga", "colour": "#2f6f8f"}, {"name": "Tobit Ahlund", "colour": "#8a5a14"}]','["Quillan Point", "Ternholm"]');
CREATE TABLE specs (
	id VARCHAR NOT NULL, 
	document VARCHAR NOT NULL, 
	PRIMARY KEY (id)
);
CREATE TABLE tracks (
	id VARCHAR(32) NOT NULL, 
	project_id VARCHAR(32) NOT NULL, 
	name VARCHAR NOT NULL, 
	language VARCHAR NOT NULL, 
	revision INTEGER NOT NULL, spec_id VARCHAR, extras JSON DEFAULT '[]' NOT NULL, judged BIGINT DEFAULT '0' NOT NULL, 
	PRIMARY KEY (id), 
	FOREIGN KEY(project_id) REFERENCES projects (id) ON DELETE CASCADE
);
INSERT INTO "tracks" VALUES('0d1be80eaa844b519e9ca890f859af35','8f087e27e75040e98b8d2a5527458323','','en',8,NULL,'[]',1795650613667307);
INSERT INTO "tracks" VALUES('72d52cbae05b42278e43e4ab3cf0ee2f','8f087e27e75040e98b8d2a5527458323','Deutsch','de',1,'cjk','[]',1795650613678460);
CREATE TABLE waivers (
	track_id VARCHAR(32) NOT NULL, 
	caption_id VARCHAR NOT NULL, 
	rule VARCHAR NOT NULL, 
	reason VARCHAR NOT NULL, 
	in_ms INTEGER NOT NULL, 
	out_ms INTEGER NOT NULL, 
	text VARCHAR NOT NULL, 
	made_ms INTEGER NOT NULL, 
	PRIMARY KEY (track_id, caption_id, rule), 
	FOREIGN KEY(track_id) REFERENCES tracks (id) ON DELETE CASCADE
);
INSERT INTO "waivers" VALUES('0d1be80eaa844b519e9ca890f859af35','a','gap','as in the script',0,900,'Hark, the fog',1795650613255);
CREATE TABLE "words" (
	project_id VARCHAR(32) NOT NULL, 
	run VARCHAR NOT NULL, 
	position BIGINT NOT NULL, 
	text VARCHAR NOT NULL, 
	start_ms INTEGER NOT NULL, 
	end_ms INTEGER NOT NULL, 
	confidence DOUBLE NOT NULL, 
	speaker VARCHAR, 
	begins BOOLEAN DEFAULT '0' NOT NULL, guessed BOOLEAN DEFAULT '0' NOT NULL, italic BOOLEAN DEFAULT '0' NOT NULL, bold BOOLEAN DEFAULT '0' NOT NULL, underline BOOLEAN DEFAULT '0' NOT NULL, 
	PRIMARY KEY (project_id, run, position), 
	FOREIGN KEY(project_id) REFERENCES projects (id) ON DELETE CASCADE
);
INSERT INTO "words" VALUES('8f087e27e75040e98b8d2a5527458323','written',0,'Hark,',0,1364,1.0,NULL,0,1,0,0,0);
INSERT INTO "words" VALUES('8f087e27e75040e98b8d2a5527458323','written',1048576,'the',1364,2182,1.0,NULL,0,1,0,0,0);
INSERT INTO "words" VALUES('8f087e27e75040e98b8d2a5527458323','written',2097152,'fog',2182,3000,1.0,NULL,0,1,0,0,0);
CREATE INDEX ix_jobs_project_id ON jobs (project_id);
CREATE INDEX ix_jobs_state ON jobs (state);
CREATE INDEX ix_jobs_version ON jobs (version);
CREATE INDEX ix_tracks_project_id ON tracks (project_id);
CREATE INDEX gestures_by_state ON gestures (track_id, state, id);
CREATE UNIQUE INDEX edits_by_revision ON edits (track_id, revision);
CREATE INDEX ix_edits_gesture_id ON edits (gesture_id);
CREATE INDEX ix_tracks_judged ON tracks (judged);
DELETE FROM "sqlite_sequence";
INSERT INTO "sqlite_sequence" VALUES('edits',9);
COMMIT;
