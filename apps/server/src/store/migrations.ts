import type { Knex } from 'knex';

interface Migration {
  readonly name: string;
  readonly up: string;
}

/** Rows of one workshop are kept from every other, whoever asks, by row security. */
const enableRowSecurity = (...tables: readonly string[]): string =>
  tables
    .map(
      (t) => `
      alter table ${t} enable row level security;
      alter table ${t} force row level security;
      create policy apart on ${t} using (workshop_id = nullif(current_setting('gavrel.workshop', true), '')::uuid);`,
    )
    .join('');

const MIGRATIONS: readonly Migration[] = [
  {
    name: '001-logbook',
    up: `
      create table workshops (
        id uuid primary key, name text not null, zone text not null, demo boolean not null default false,
        last_seq bigint not null default 0, fold_version int not null default 0
      );
      create table people (
        workshop_id uuid not null references workshops, id uuid not null, name text not null, role text not null,
        competent boolean not null default false, passhash text not null,
        primary key (workshop_id, id)
      );
      create unique index people_name on people (workshop_id, lower(name));
      create table sessions (
        workshop_id uuid not null, token_hash text not null, person_id uuid not null, device text not null,
        expires_at timestamptz not null,
        primary key (workshop_id, token_hash)
      );
      create table entries (
        workshop_id uuid not null, seq bigint not null, id uuid not null, kind text not null, by_person uuid not null,
        recorded_at timestamptz not null, effective_at timestamptz not null, entry jsonb not null,
        primary key (workshop_id, id)
      );
      create unique index entries_seq on entries (workshop_id, seq);
      create table entry_subjects (
        workshop_id uuid not null, subject text not null, seq bigint not null,
        primary key (workshop_id, subject, seq)
      );
      create table packs (
        workshop_id uuid not null, id uuid not null, facts jsonb not null, tag text not null, code text not null,
        folded text not null, condition text not null, ruled_on date not null, place uuid, notebook uuid,
        primary key (workshop_id, id)
      );
      create index packs_notebook on packs (workshop_id, notebook);
      create table notebooks (workshop_id uuid not null, id uuid not null, facts jsonb not null, primary key (workshop_id, id));
      create table jobs (workshop_id uuid not null, id uuid not null, facts jsonb not null, primary key (workshop_id, id));
      create table places (workshop_id uuid not null, id uuid not null, facts jsonb not null, primary key (workshop_id, id));

      create function refuse_change() returns trigger language plpgsql as
        $f$ begin raise exception 'entries are append-only'; end $f$;
      create trigger entries_append_only before update or delete on entries for each row execute function refuse_change();
      create trigger entries_no_truncate before truncate on entries for each statement execute function refuse_change();

      ${enableRowSecurity('people', 'sessions', 'entries', 'entry_subjects', 'packs', 'notebooks', 'jobs', 'places')}

      grant select on workshops to gavrel_app;
      grant update (last_seq) on workshops to gavrel_app;
      grant select on people to gavrel_app;
      grant select, insert, delete on sessions to gavrel_app;
      grant select, insert on entries, entry_subjects to gavrel_app;
      grant select, insert, update on packs, notebooks, jobs, places to gavrel_app;
    `,
  },
  {
    name: '002-pictures-owners',
    up: `
      create table blobs (
        workshop_id uuid not null references workshops, sha256 text not null, type text not null, size int not null,
        bytes bytea, by_person uuid not null, at timestamptz not null default now(), erased_at timestamptz, erased_by uuid,
        primary key (workshop_id, sha256)
      );
      create table owners (
        workshop_id uuid not null references workshops, id uuid not null, name text not null, contact text not null,
        by_person uuid not null, at timestamptz not null default now(),
        primary key (workshop_id, id)
      );
      create function refuse_new_bytes() returns trigger language plpgsql as
        $f$ begin
          if new.bytes is not null then raise exception 'a picture is only ever erased'; end if;
          return new;
        end $f$;
      create trigger blobs_erase_only before update on blobs for each row execute function refuse_new_bytes();
      ${enableRowSecurity('blobs', 'owners')}
      grant select, insert on blobs to gavrel_app;
      grant update (bytes, erased_at, erased_by) on blobs to gavrel_app;
      grant select, insert, update, delete on owners to gavrel_app;
    `,
  },
  {
    name: '003-calendar',
    up: `
      create table calendars (
        workshop_id uuid not null references workshops, token_hash text not null, by_person uuid not null,
        made_at timestamptz not null default now(),
        primary key (workshop_id)
      );
      ${enableRowSecurity('calendars')}
      grant select, insert, delete on calendars to gavrel_app;
    `,
  },
  {
    name: '004-incidents',
    up: `
      create table incidents (workshop_id uuid not null, id uuid not null, facts jsonb not null, primary key (workshop_id, id));
      ${enableRowSecurity('incidents')}
      grant select, insert, update on incidents to gavrel_app;

      alter table entry_subjects no force row level security;
      alter table entries no force row level security;
      alter table entry_subjects add column kind text;
      update entry_subjects s set kind = e.kind from entries e where e.workshop_id = s.workshop_id and e.seq = s.seq;
      alter table entry_subjects alter column kind set not null;
      alter table entry_subjects force row level security;
      alter table entries force row level security;
      create index entry_subjects_folded on entry_subjects (workshop_id, subject, seq)
        where kind <> 'moved' or subject like 'pack:%';
    `,
  },
  {
    name: '005-people',
    up: `
      create table trainings (
        workshop_id uuid not null, person_id uuid not null, kind text not null, until date not null,
        primary key (workshop_id, person_id, kind), foreign key (workshop_id, person_id) references people
      );
      create table tries (
        workshop_id uuid not null references workshops, key text not null, failed int not null, until timestamptz not null,
        primary key (workshop_id, key)
      );
      alter table people no force row level security;
      alter table people add column pinhash text, add column disabled_at timestamptz;
      insert into trainings select workshop_id, id, 'assess', current_date + 365 from people where competent;
      alter table people drop column competent;
      alter table people force row level security;
      create index sessions_person on sessions (workshop_id, person_id);
      ${enableRowSecurity('trainings', 'tries')}
      grant insert, update on people to gavrel_app;
      grant select, insert, update, delete on trainings, tries to gavrel_app;
    `,
  },
  {
    name: '006-lists',
    // The search reads the folded words in the index, in the order of the list: no row is fetched that is not shown.
    up: `
      create index packs_list on packs (workshop_id, tag, id) include (folded);
      create index packs_ruled on packs (workshop_id, ruled_on);
      create index packs_condition on packs (workshop_id, condition, tag, id);
    `,
  },
  {
    name: '007-outside',
    // The key of a code generator, and the last step of time whose code was used: a code signs once.
    up: 'alter table people add column code_key text, add column code_step bigint not null default 0;',
  },
  {
    name: '008-waits',
    // Whose confirmation an entry waits for, found when it was taken; null for what can make nothing milder and for what is older.
    up: `alter table entries add column waits text check (waits in ('nobody', 'second', 'trained'));`,
  },
  {
    name: '009-devices',
    // A device is known by a secret of its own; who was let in, changed or signed in is a trail nobody changes.
    up: `
      create table devices (
        workshop_id uuid not null references workshops, id uuid not null, secret_hash text not null, before_hash text not null,
        seen_at timestamptz not null default now(),
        primary key (workshop_id, id)
      );
      alter table sessions add column device_id uuid;
      create index sessions_device on sessions (workshop_id, device_id);
      alter table people add column given boolean not null default false;
      drop table tries;
      create table tries (
        workshop_id uuid not null references workshops, key text not null, whose text not null, failed int not null,
        until timestamptz not null,
        primary key (workshop_id, key)
      );
      create index tries_whose on tries (workshop_id, whose);
      create table trail (
        workshop_id uuid not null references workshops, id bigint generated always as identity, at timestamptz not null default now(),
        what text not null, by_person uuid, about uuid, device text, note text,
        primary key (workshop_id, id)
      );
      create function refuse_trail_change() returns trigger language plpgsql as
        $f$ begin raise exception 'the trail is append-only'; end $f$;
      create trigger trail_append_only before update or delete on trail for each row execute function refuse_trail_change();
      create trigger trail_no_truncate before truncate on trail for each statement execute function refuse_trail_change();
      ${enableRowSecurity('devices', 'tries', 'trail')}
      grant select, insert, update, delete on devices, tries to gavrel_app;
      grant select, insert on trail to gavrel_app;
      grant update on calendars to gavrel_app;
    `,
  },
  {
    name: '010-daily',
    // What the day and the policy make of a pack stands beside its facts, with what it was judged by; another day only makes it stale.
    up: `
      create table pack_daily (
        workshop_id uuid not null, id uuid not null, seq bigint not null, condition text not null, ruled_on date not null,
        basis text not null, owed jsonb,
        primary key (workshop_id, id)
      );
      alter table packs no force row level security;
      insert into pack_daily select workshop_id, id, 0, condition, ruled_on, '', null from packs;
      drop index packs_ruled;
      drop index packs_condition;
      -- What a list shows stands beside the facts too, so that a page reads none; the next start fills it.
      alter table packs drop column condition, drop column ruled_on, add column use text, add column keys text[] not null default '{}';
      alter table packs force row level security;
      create index pack_daily_condition on pack_daily (workshop_id, condition, id);
      create index pack_daily_basis on pack_daily (workshop_id, basis, ruled_on);
      create index pack_daily_owed on pack_daily (workshop_id) where owed is not null;
      ${enableRowSecurity('pack_daily')}
      grant select, insert, update on pack_daily to gavrel_app;
    `,
  },
  {
    name: '011-good-until',
    // A condition holds until a look grows too old: another day alone makes nothing stale. All that is here is judged anew once.
    up: `
      drop index pack_daily_basis;
      alter table pack_daily drop column ruled_on,
        add column judged_at timestamptz not null default 'epoch', add column good_until timestamptz;
      alter table pack_daily no force row level security;
      update pack_daily set basis = '';
      alter table pack_daily force row level security;
    `,
  },
  {
    name: '012-consignments',
    up: `
      create table consignments (workshop_id uuid not null, id uuid not null, facts jsonb not null, primary key (workshop_id, id));
      ${enableRowSecurity('consignments')}
      grant select, insert, update on consignments to gavrel_app;
    `,
  },
  {
    name: '013-owing',
    // What is due is asked for all day long: of thousands of closed jobs nothing is read that owes nothing. Facts of an older program
    // that do not say it count as owing.
    up: `
      alter table jobs
        add column owing boolean not null generated always as (coalesce(facts->'dues' <> '[]' or facts->'waiting' <> '[]', true)) stored,
        add column notebook text generated always as (facts->>'notebook') stored;
      alter table notebooks
        add column owing boolean not null generated always as (coalesce(facts->'waiting' <> '[]', true)) stored;
      create index jobs_owing on jobs (workshop_id) where owing;
      create index jobs_notebook on jobs (workshop_id, notebook);
      create index notebooks_owing on notebooks (workshop_id) where owing;
    `,
  },
  {
    name: '014-practised',
    // Beside the log: nothing that was practised was ever true of a pack.
    up: `
      create table practised (
        workshop_id uuid not null, person_id uuid not null, scenario text not null, begun timestamptz not null, ended timestamptz not null,
        full_marks boolean not null, harm int not null, found boolean not null, sure real, bet_right boolean,
        primary key (workshop_id, person_id, scenario, begun)
      );
      create index practised_ended on practised (workshop_id, ended desc);
      ${enableRowSecurity('practised')}
      grant select, insert, delete on practised to gavrel_app;
    `,
  },
  {
    name: '015-walks',
    // Thousands of packs owe one look and nothing else: those of one place and day are one line of what is due, and one row is read for them.
    up: `
      alter table pack_daily add column walk text generated always as (
        case when owed->'watch' = 'null' and owed->'wasteSince' = 'null' and jsonb_array_length(owed->'dues') = 1
                  and owed->'dues'->0->>'id' = 'look:' || id::text
             then coalesce(owed->>'place', '') || ' ' || coalesce(owed->>'agedLook' || ' aged', owed->'dues'->0->>'on') end) stored;
      create index pack_daily_walk on pack_daily (workshop_id, walk) where walk is not null;
    `,
  },
  {
    name: '016-bench-tests',
    // Beside the log: a load's last test, row by row, so that hours of it outlive the server that runs it.
    up: `
      create table bench_tests (
        workshop_id uuid not null, load uuid not null, began timestamptz not null, pack uuid not null, about jsonb not null,
        by_person uuid not null, told_at timestamptz not null default now(), watched_at timestamptz not null default now(),
        stop text, ended jsonb,
        primary key (workshop_id, load)
      );
      create table bench_rows (
        workshop_id uuid not null, load uuid not null, first int not null, beyond int not null, rows jsonb not null,
        primary key (workshop_id, load, first)
      );
      ${enableRowSecurity('bench_tests', 'bench_rows')}
      grant select, insert, update, delete on bench_tests, bench_rows to gavrel_app;
    `,
  },
  {
    name: '017-session-of',
    // Every request begins with it: one question in place of a transaction of four. Row security holds in it as everywhere.
    up: `
      create function session_of(workshop uuid, token text, after timestamptz, before timestamptz)
      returns table (id uuid, name text, role text, given boolean, trainings jsonb, device text, device_id uuid)
      language plpgsql as $$ begin
        perform set_config('gavrel.workshop', workshop::text, true);
        return query
          select p.id, p.name, p.role, p.given,
            coalesce((select jsonb_agg(jsonb_build_object('kind', t.kind, 'until', to_char(t.until, 'YYYY-MM-DD')) order by t.kind)
              from trainings t where t.workshop_id = p.workshop_id and t.person_id = p.id), '[]'::jsonb),
            s.device, s.device_id
          from sessions s join people p on p.workshop_id = s.workshop_id and p.id = s.person_id
          where s.workshop_id = workshop and s.token_hash = token and s.expires_at > after and s.expires_at < before
            and p.disabled_at is null;
      end $$;
    `,
  },
  {
    name: '018-daily-inputs',
    // What another day or policy makes of a pack follows from them: its facts, which grow with every entry, need not be read again.
    up: `alter table packs add column inputs jsonb;`,
  },
];

export const MIGRATION_NAMES: readonly string[] = MIGRATIONS.map((m) => m.name);

/** Names of the migrations that this database lacks. */
export async function pending(owner: Knex): Promise<string[]> {
  if (!(await owner.schema.hasTable('migrations'))) return [...MIGRATION_NAMES];
  const done = new Set((await owner('migrations').select('name')).map((r: { name: string }) => r.name));
  return MIGRATION_NAMES.filter((n) => !done.has(n));
}

/**
 * Applies what is missing, one after another, under an advisory lock, so that any number of servers may start at once.
 *
 * Not by Knex's own migrator: its lock is a row that a server killed on the way leaves locked until somebody unlocks it by hand, where an
 * advisory lock ends with its connection; it takes each migration by itself, where an upgrade here is whole or not at all; and it takes a
 * database that a newer program made for one with files missing, where this one says what to do.
 * @param upTo the last one to apply, for making a database as an older version left it; all where none is named.
 * @throws Error when the database is newer than this program.
 */
export async function migrate(owner: Knex, upTo?: string): Promise<void> {
  await owner.transaction(async (trx) => {
    await trx.raw('select pg_advisory_xact_lock(7364112)');
    await trx.raw('create table if not exists migrations (name text primary key, at timestamptz not null default now())');
    const done = new Set((await trx('migrations').select('name')).map((r: { name: string }) => r.name));
    const unknown = [...done].filter((n) => !MIGRATIONS.some((m) => m.name === n));
    if (unknown.length > 0)
      throw new Error(`the database is newer than this program (${unknown.join(', ')}): update the program`);
    for (const m of MIGRATIONS) {
      if (done.has(m.name) || (upTo !== undefined && m.name > upTo)) continue;
      await trx.raw(m.up);
      await trx('migrations').insert({ name: m.name });
    }
  });
}
