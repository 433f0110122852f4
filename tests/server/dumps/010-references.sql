-- An installation as of 010-references, with one of everything.

CREATE TABLE public.accounts (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    email text NOT NULL,
    name text NOT NULL,
    password_hash text NOT NULL,
    demo boolean DEFAULT false NOT NULL,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    settings jsonb
);

CREATE TABLE public.deliveries (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    track_id uuid NOT NULL,
    mix_id uuid NOT NULL,
    version_id uuid,
    destination jsonb NOT NULL,
    lane jsonb NOT NULL,
    level_db real DEFAULT '0'::real NOT NULL,
    status text DEFAULT 'waiting'::text NOT NULL,
    progress real DEFAULT '0'::real NOT NULL,
    problem text,
    heartbeat_at timestamp with time zone,
    file_hash text,
    file_name text,
    receipt jsonb,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    finished_at timestamp with time zone,
    lease_token uuid,
    crashes integer DEFAULT 0 NOT NULL,
    held_because text,
    waiting_since timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    CONSTRAINT deliveries_finished_is_whole CHECK (((status <> 'finished'::text) OR ((file_hash IS NOT NULL) AND (receipt IS NOT NULL)))),
    CONSTRAINT deliveries_status_known CHECK ((status = ANY (ARRAY['waiting'::text, 'rendering'::text, 'finished'::text, 'failed'::text, 'cancelled'::text])))
);

CREATE TABLE public.destinations (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    release_id uuid NOT NULL,
    "position" integer NOT NULL,
    settings jsonb NOT NULL,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL
);

CREATE TABLE public.edits (
    version_id uuid NOT NULL,
    sequence integer NOT NULL,
    label text NOT NULL,
    lane jsonb NOT NULL,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    figures jsonb
);

CREATE TABLE public.impulse_responses (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    account_id uuid NOT NULL,
    name text NOT NULL,
    file_hash text NOT NULL,
    channels integer NOT NULL,
    seconds double precision NOT NULL,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    CONSTRAINT impulse_responses_channels_check CHECK ((channels = ANY (ARRAY[1, 2])))
);

CREATE TABLE public.installation (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    "only" boolean DEFAULT true NOT NULL,
    demo_removed boolean DEFAULT false NOT NULL,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    CONSTRAINT installation_is_one CHECK (("only" = true))
);

CREATE TABLE public.knex_migrations (
    id integer NOT NULL,
    name character varying(255),
    batch integer,
    migration_time timestamp with time zone
);

CREATE SEQUENCE public.knex_migrations_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;

ALTER SEQUENCE public.knex_migrations_id_seq OWNED BY public.knex_migrations.id;

CREATE TABLE public.knex_migrations_lock (
    index integer NOT NULL,
    is_locked integer
);

CREATE SEQUENCE public.knex_migrations_lock_index_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;

ALTER SEQUENCE public.knex_migrations_lock_index_seq OWNED BY public.knex_migrations_lock.index;

CREATE TABLE public.measurements (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    mix_id uuid NOT NULL,
    key text NOT NULL,
    lane jsonb NOT NULL,
    status text DEFAULT 'waiting'::text NOT NULL,
    progress real DEFAULT '0'::real NOT NULL,
    problem text,
    heartbeat_at timestamp with time zone,
    lease_token uuid,
    crashes integer DEFAULT 0 NOT NULL,
    held_because text,
    waiting_since timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    summary jsonb,
    data bytea,
    CONSTRAINT measurements_status_known CHECK ((status = ANY (ARRAY['waiting'::text, 'measuring'::text, 'finished'::text, 'failed'::text])))
);

CREATE TABLE public.mixes (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    track_id uuid NOT NULL,
    number integer NOT NULL,
    file_name text NOT NULL,
    status text DEFAULT 'waiting'::text NOT NULL,
    progress real DEFAULT '0'::real NOT NULL,
    refusal text,
    heartbeat_at timestamp with time zone,
    source jsonb NOT NULL,
    original_hash text,
    working_hash text,
    working_format text,
    sample_rate integer NOT NULL,
    frames bigint,
    findings jsonb,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    lined_up jsonb,
    lease_token uuid,
    crashes integer DEFAULT 0 NOT NULL,
    held_because text,
    waiting_since timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    removed_at timestamp with time zone,
    CONSTRAINT mixes_ready_is_whole CHECK (((status <> 'ready'::text) OR ((working_hash IS NOT NULL) AND (frames IS NOT NULL) AND (findings IS NOT NULL)))),
    CONSTRAINT mixes_status_known CHECK ((status = ANY (ARRAY['waiting'::text, 'analysing'::text, 'ready'::text, 'refused'::text])))
);

CREATE TABLE public.notes (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    track_id uuid NOT NULL,
    kind text NOT NULL,
    start_seconds double precision NOT NULL,
    end_seconds double precision,
    text text NOT NULL,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    CONSTRAINT notes_check CHECK (((start_seconds >= (0)::double precision) AND ((end_seconds IS NULL) OR (end_seconds > start_seconds)))),
    CONSTRAINT notes_kind_check CHECK ((kind = ANY (ARRAY['fault'::text, 'wish'::text, 'question'::text, 'done'::text, 'loop'::text])))
);

CREATE TABLE public.reference_tracks (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    account_id uuid NOT NULL,
    title text NOT NULL,
    file_name text NOT NULL,
    file_hash text NOT NULL,
    source jsonb NOT NULL,
    status text DEFAULT 'waiting'::text NOT NULL,
    progress real DEFAULT '0'::real NOT NULL,
    refusal text,
    held_because text,
    report jsonb,
    lease_token uuid,
    crashes integer DEFAULT 0 NOT NULL,
    heartbeat_at timestamp with time zone,
    waiting_since timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    removed_at timestamp with time zone,
    CONSTRAINT reference_tracks_check CHECK (((status <> 'ready'::text) OR (report IS NOT NULL))),
    CONSTRAINT reference_tracks_status_check CHECK ((status = ANY (ARRAY['waiting'::text, 'measuring'::text, 'ready'::text, 'refused'::text])))
);

CREATE TABLE public.releases (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    account_id uuid NOT NULL,
    title text NOT NULL,
    artist text DEFAULT ''::text NOT NULL,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    ean text DEFAULT ''::text NOT NULL,
    copyright text DEFAULT ''::text NOT NULL,
    notes text DEFAULT ''::text NOT NULL,
    year integer,
    archived_at timestamp with time zone,
    removed_at timestamp with time zone,
    CONSTRAINT releases_title_given CHECK ((length(TRIM(BOTH FROM title)) > 0))
);

CREATE TABLE public.sessions (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    account_id uuid NOT NULL,
    agent text DEFAULT ''::text NOT NULL,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL
);

CREATE TABLE public.throttles (
    key character varying(255) NOT NULL,
    points integer DEFAULT 0 NOT NULL,
    expire bigint
);

CREATE TABLE public.tracks (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    release_id uuid NOT NULL,
    "position" integer NOT NULL,
    title text NOT NULL,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    mix_id uuid,
    artist text DEFAULT ''::text NOT NULL,
    isrc text DEFAULT ''::text NOT NULL,
    composer text DEFAULT ''::text NOT NULL,
    copyright text DEFAULT ''::text NOT NULL,
    notes text DEFAULT ''::text NOT NULL,
    removed_at timestamp with time zone,
    candidates jsonb
);

CREATE TABLE public.versions (
    id uuid DEFAULT gen_random_uuid() NOT NULL,
    track_id uuid NOT NULL,
    name text NOT NULL,
    current integer DEFAULT 0 NOT NULL,
    created_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL,
    pins jsonb DEFAULT '[]'::jsonb NOT NULL,
    "position" integer DEFAULT 0 NOT NULL,
    removed_at timestamp with time zone
);

CREATE TABLE public.workers (
    id uuid NOT NULL,
    seen_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP NOT NULL
);

ALTER TABLE ONLY public.knex_migrations ALTER COLUMN id SET DEFAULT nextval('public.knex_migrations_id_seq'::regclass);

ALTER TABLE ONLY public.knex_migrations_lock ALTER COLUMN index SET DEFAULT nextval('public.knex_migrations_lock_index_seq'::regclass);

INSERT INTO public.accounts VALUES ('00000000-0000-4000-8000-000000000001', 'engineer@example.com', 'Engineer', 'x', false, '2026-11-26 19:25:03.811395+00', NULL);

INSERT INTO public.deliveries VALUES ('00000000-0000-4000-8000-000000000007', '00000000-0000-4000-8000-000000000003', '00000000-0000-4000-8000-000000000004', '00000000-0000-4000-8000-000000000005', '{"name": "Streaming", "depth": 24, "loudness": null, "container": "flac", "sampleRate": null, "maxTruePeakDbtp": -1}', '{"schema": 4, "stages": []}', 0, 'finished', 1, NULL, NULL, 'cccccccccccccccccccccccccccccccccccccccccccccccccccccccccccccccc', 'master.flac', '{"schema": 1}', '2026-11-26 19:25:03.818045+00', NULL, NULL, 0, NULL, '2026-11-27 01:40:58.533446+00');

INSERT INTO public.destinations VALUES ('00000000-0000-4000-8000-000000000006', '00000000-0000-4000-8000-000000000002', 0, '{"name": "Streaming", "depth": 24, "loudness": {"targetLufs": -14, "toleranceLu": 1}, "container": "flac", "sampleRate": null, "maxTruePeakDbtp": -1}', '2026-11-26 19:25:03.817247+00');

INSERT INTO public.edits VALUES ('00000000-0000-4000-8000-000000000005', 0, 'Start', '{"schema": 4, "stages": [{"id": "a", "on": true, "kind": "trim", "settings": {"gainDb": 0}}]}', '2026-11-26 19:25:03.815969+00', NULL);
INSERT INTO public.edits VALUES ('00000000-0000-4000-8000-000000000005', 1, 'Gain', '{"schema": 4, "stages": [{"id": "a", "on": true, "kind": "trim", "settings": {"gainDb": -6}}]}', '2026-11-26 19:25:03.816726+00', '{"mixId": "00000000-0000-4000-8000-000000000004", "plrLu": 13.1, "truePeakDbtp": -1, "integratedLufs": -14.1}');

INSERT INTO public.impulse_responses VALUES ('00000000-0000-4000-8000-000000000008', '00000000-0000-4000-8000-000000000001', 'Hall', 'dddddddddddddddddddddddddddddddddddddddddddddddddddddddddddddddd', 2, 1.5, '2026-11-26 19:25:03.819225+00');

INSERT INTO public.installation VALUES ('6326199f-6d4f-475e-8505-a3aaa4891d4e', true, false, '2026-11-27 01:40:58.533446+00');

INSERT INTO public.knex_migrations VALUES (1, '001-first-slice.ts', 1, '2026-11-26 19:25:03.799+00');
INSERT INTO public.knex_migrations VALUES (2, '002-complete-intake.ts', 1, '2026-11-26 19:25:03.8+00');
INSERT INTO public.knex_migrations VALUES (3, '003-mixes-and-pins.ts', 1, '2026-11-26 19:25:03.803+00');
INSERT INTO public.knex_migrations VALUES (4, '004-impulse-responses.ts', 1, '2026-11-26 19:25:03.809+00');
INSERT INTO public.knex_migrations VALUES (5, '005-reliability.ts', 2, '2026-11-27 01:40:58.569+00');
INSERT INTO public.knex_migrations VALUES (6, '006-objects.ts', 3, '2026-11-27 04:45:35.968+00');
INSERT INTO public.knex_migrations VALUES (7, '007-measurements.ts', 4, '2026-11-27 09:59:23.671+00');
INSERT INTO public.knex_migrations VALUES (8, '008-step-figures.ts', 5, '2026-11-27 11:42:57.091+00');
INSERT INTO public.knex_migrations VALUES (9, '009-candidates-and-notes.ts', 6, '2026-11-27 15:12:02.84+00');
INSERT INTO public.knex_migrations VALUES (10, '010-references.ts', 7, '2026-11-27 19:29:55.833+00');

INSERT INTO public.knex_migrations_lock VALUES (1, 0);

INSERT INTO public.measurements VALUES ('f16def79-497d-4992-b5d8-7b82db563738', '00000000-0000-4000-8000-000000000004', '0000000000000000000000000000000000000000000000000000000000000000', '{}', 'finished', 1, NULL, NULL, NULL, 0, NULL, '2026-11-27 09:59:32.084688+00', '2026-11-27 09:59:32.084688+00', NULL, NULL);

INSERT INTO public.mixes VALUES ('00000000-0000-4000-8000-000000000004', '00000000-0000-4000-8000-000000000003', 1, 'mix.wav', 'ready', 1, NULL, NULL, '{"bits": 24, "codec": "pcm_s24le", "float": false, "channels": 2, "container": "WAV", "sampleRate": 44100, "durationSeconds": 1}', 'aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa', 'bbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbbb', 'flac', 44100, 44100, '{"frames": 44100, "schema": 2, "loudest": {"end": 44100, "start": 0}, "findings": []}', '2026-11-26 19:25:03.814131+00', NULL, NULL, 0, NULL, '2026-11-27 01:40:58.533446+00', NULL);

INSERT INTO public.notes VALUES ('00000000-0000-4000-8000-0000000000a1', '00000000-0000-4000-8000-000000000003', 'fault', 1.5, NULL, 'Kept note', '2026-11-27 15:12:09.084707+00');

INSERT INTO public.reference_tracks VALUES ('00000000-0000-4000-8000-000000000040', '00000000-0000-4000-8000-000000000001', 'Kept reference', 'kept.mp3', 'eeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeeee', '{"codec": "mp3", "channels": 2, "container": "MP3", "sampleRate": 44100, "durationSeconds": 1}', 'waiting', 0, NULL, NULL, NULL, NULL, 0, NULL, '2026-11-27 19:30:12.842327+00', '2026-11-27 19:30:12.842327+00', NULL);

INSERT INTO public.releases VALUES ('00000000-0000-4000-8000-000000000002', '00000000-0000-4000-8000-000000000001', 'Kept release', 'Somebody', '2026-11-26 19:25:03.812332+00', '', '', '', NULL, NULL, NULL);

INSERT INTO public.tracks VALUES ('00000000-0000-4000-8000-000000000003', '00000000-0000-4000-8000-000000000002', 1, 'Kept track', '2026-11-26 19:25:03.813156+00', NULL, '', '', '', '', '', NULL, NULL);

INSERT INTO public.versions VALUES ('00000000-0000-4000-8000-000000000005', '00000000-0000-4000-8000-000000000003', 'First version', 1, '2026-11-26 19:25:03.815167+00', '[{"stage": "a", "value": -6, "control": "gainDb"}]', 1, NULL);

SELECT pg_catalog.setval('public.knex_migrations_id_seq', 10, true);

SELECT pg_catalog.setval('public.knex_migrations_lock_index_seq', 1, false);

ALTER TABLE ONLY public.accounts
    ADD CONSTRAINT accounts_email_unique UNIQUE (email);

ALTER TABLE ONLY public.accounts
    ADD CONSTRAINT accounts_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.deliveries
    ADD CONSTRAINT deliveries_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.destinations
    ADD CONSTRAINT destinations_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.edits
    ADD CONSTRAINT edits_pkey PRIMARY KEY (version_id, sequence);

ALTER TABLE ONLY public.impulse_responses
    ADD CONSTRAINT impulse_responses_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.installation
    ADD CONSTRAINT installation_only_unique UNIQUE ("only");

ALTER TABLE ONLY public.installation
    ADD CONSTRAINT installation_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.knex_migrations_lock
    ADD CONSTRAINT knex_migrations_lock_pkey PRIMARY KEY (index);

ALTER TABLE ONLY public.knex_migrations
    ADD CONSTRAINT knex_migrations_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.measurements
    ADD CONSTRAINT measurements_mix_id_key_unique UNIQUE (mix_id, key);

ALTER TABLE ONLY public.measurements
    ADD CONSTRAINT measurements_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.mixes
    ADD CONSTRAINT mixes_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.mixes
    ADD CONSTRAINT mixes_track_id_number_unique UNIQUE (track_id, number);

ALTER TABLE ONLY public.notes
    ADD CONSTRAINT notes_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.reference_tracks
    ADD CONSTRAINT reference_tracks_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.releases
    ADD CONSTRAINT releases_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.sessions
    ADD CONSTRAINT sessions_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.throttles
    ADD CONSTRAINT throttles_pkey PRIMARY KEY (key);

ALTER TABLE ONLY public.tracks
    ADD CONSTRAINT tracks_one_a_place EXCLUDE USING btree (release_id WITH =, "position" WITH =) WHERE ((removed_at IS NULL)) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.tracks
    ADD CONSTRAINT tracks_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.versions
    ADD CONSTRAINT versions_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.workers
    ADD CONSTRAINT workers_pkey PRIMARY KEY (id);

CREATE INDEX deliveries_mix_id_index ON public.deliveries USING btree (mix_id);

CREATE INDEX deliveries_track_id_index ON public.deliveries USING btree (track_id);

CREATE INDEX deliveries_unfinished ON public.deliveries USING btree (status) WHERE (status = ANY (ARRAY['waiting'::text, 'analysing'::text, 'rendering'::text]));

CREATE INDEX deliveries_version_id_index ON public.deliveries USING btree (version_id);

CREATE INDEX destinations_release_id_index ON public.destinations USING btree (release_id);

CREATE INDEX impulse_responses_account_id_index ON public.impulse_responses USING btree (account_id);

CREATE INDEX measurements_unfinished ON public.measurements USING btree (status) WHERE (status = ANY (ARRAY['waiting'::text, 'measuring'::text]));

CREATE INDEX mixes_removed ON public.mixes USING btree (removed_at) WHERE (removed_at IS NOT NULL);

CREATE INDEX mixes_track_id_index ON public.mixes USING btree (track_id);

CREATE INDEX mixes_unfinished ON public.mixes USING btree (status) WHERE (status = ANY (ARRAY['waiting'::text, 'analysing'::text, 'rendering'::text]));

CREATE INDEX notes_track_id_index ON public.notes USING btree (track_id);

CREATE INDEX reference_tracks_account_id_index ON public.reference_tracks USING btree (account_id);

CREATE INDEX releases_account_id_created_at_id_index ON public.releases USING btree (account_id, created_at, id);

CREATE INDEX releases_removed ON public.releases USING btree (removed_at) WHERE (removed_at IS NOT NULL);

CREATE INDEX sessions_account_id_index ON public.sessions USING btree (account_id);

CREATE INDEX tracks_mix_id_index ON public.tracks USING btree (mix_id);

CREATE INDEX tracks_release_id_index ON public.tracks USING btree (release_id);

CREATE INDEX tracks_removed ON public.tracks USING btree (removed_at) WHERE (removed_at IS NOT NULL);

CREATE INDEX versions_removed ON public.versions USING btree (removed_at) WHERE (removed_at IS NOT NULL);

CREATE INDEX versions_track_id_index ON public.versions USING btree (track_id);

ALTER TABLE ONLY public.deliveries
    ADD CONSTRAINT deliveries_mix_id_foreign FOREIGN KEY (mix_id) REFERENCES public.mixes(id);

ALTER TABLE ONLY public.deliveries
    ADD CONSTRAINT deliveries_track_id_foreign FOREIGN KEY (track_id) REFERENCES public.tracks(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.deliveries
    ADD CONSTRAINT deliveries_version_id_foreign FOREIGN KEY (version_id) REFERENCES public.versions(id) ON DELETE SET NULL;

ALTER TABLE ONLY public.destinations
    ADD CONSTRAINT destinations_release_id_foreign FOREIGN KEY (release_id) REFERENCES public.releases(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.edits
    ADD CONSTRAINT edits_version_id_foreign FOREIGN KEY (version_id) REFERENCES public.versions(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.impulse_responses
    ADD CONSTRAINT impulse_responses_account_id_foreign FOREIGN KEY (account_id) REFERENCES public.accounts(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.measurements
    ADD CONSTRAINT measurements_mix_id_foreign FOREIGN KEY (mix_id) REFERENCES public.mixes(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.mixes
    ADD CONSTRAINT mixes_track_id_foreign FOREIGN KEY (track_id) REFERENCES public.tracks(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.notes
    ADD CONSTRAINT notes_track_id_foreign FOREIGN KEY (track_id) REFERENCES public.tracks(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.reference_tracks
    ADD CONSTRAINT reference_tracks_account_id_foreign FOREIGN KEY (account_id) REFERENCES public.accounts(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.releases
    ADD CONSTRAINT releases_account_id_foreign FOREIGN KEY (account_id) REFERENCES public.accounts(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.sessions
    ADD CONSTRAINT sessions_account_id_foreign FOREIGN KEY (account_id) REFERENCES public.accounts(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.tracks
    ADD CONSTRAINT tracks_mix_id_foreign FOREIGN KEY (mix_id) REFERENCES public.mixes(id) ON DELETE SET NULL;

ALTER TABLE ONLY public.tracks
    ADD CONSTRAINT tracks_release_id_foreign FOREIGN KEY (release_id) REFERENCES public.releases(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.versions
    ADD CONSTRAINT versions_track_id_foreign FOREIGN KEY (track_id) REFERENCES public.tracks(id) ON DELETE CASCADE;
