import { existsSync } from 'node:fs';
import { KelpError } from '@kelp/core';
import { DataTypes, type QueryInterface, type Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';

const { STRING, INTEGER, TEXT, BLOB, DATE, FLOAT } = DataTypes;

interface Migration {
  name: string;
  up(context: QueryInterface): Promise<void>;
}

/** In order; a migration that has left Kelp is never changed, the next one mends it. */
const MIGRATIONS: readonly Migration[] = [
  {
    name: '0001-projects-props-bakes',
    async up(queries) {
      await queries.createTable('projects', {
        id: { type: STRING(36), primaryKey: true },
        name: { type: STRING(200), allowNull: false },
        revision: { type: INTEGER, allowNull: false },
        createdAt: { type: DATE, allowNull: false },
        updatedAt: { type: DATE, allowNull: false },
        deletedAt: { type: DATE },
      });
      const project = {
        type: STRING(36),
        allowNull: false,
        references: { model: 'projects', key: 'id' },
        onDelete: 'CASCADE',
      };
      await queries.createTable('revisions', {
        projectId: { ...project, primaryKey: true },
        number: { type: INTEGER, primaryKey: true },
        document: { type: TEXT, allowNull: false },
        createdAt: { type: DATE, allowNull: false },
      });
      await queries.createTable('props', {
        hash: { type: STRING(64), primaryKey: true },
        bytes: { type: BLOB, allowNull: false },
        triangles: { type: INTEGER, allowNull: false },
        createdAt: { type: DATE, allowNull: false },
      });
      await queries.createTable('bakes', {
        id: { type: STRING(36), primaryKey: true },
        projectId: project,
        revision: { type: INTEGER, allowNull: false },
        piece: { type: STRING(200) },
        density: { type: FLOAT, allowNull: false },
        status: { type: STRING(10), allowNull: false },
        report: { type: TEXT },
        error: { type: TEXT },
        result: { type: BLOB },
        createdAt: { type: DATE, allowNull: false },
        finishedAt: { type: DATE },
      });
      await queries.addIndex('bakes', ['projectId', 'createdAt']);
    },
  },
  {
    name: '0002-covers',
    async up(queries) {
      await queries.createTable('covers', {
        projectId: {
          type: STRING(36),
          primaryKey: true,
          references: { model: 'projects', key: 'id' },
          onDelete: 'CASCADE',
        },
        bytes: { type: BLOB, allowNull: false },
        updatedAt: { type: DATE, allowNull: false },
      });
    },
  },
  {
    name: '0003-bake-formats',
    async up(queries) {
      await queries.addColumn('bakes', 'format', { type: STRING(8), allowNull: false, defaultValue: 'glb' });
    },
  },
  {
    name: '0004-bake-settings',
    async up(queries) {
      await queries.addColumn('bakes', 'settings', { type: TEXT });
    },
  },
];

/** The first of the steps a database went through that this Kelp does not know. */
export const laterMigration = (done: readonly string[]): string | undefined =>
  done.find((name) => !MIGRATIONS.some((step) => step.name === name));

/**
 * Lifts a database to the newest schema. One that holds something is copied first: `FILE.before-NAME` is what it was.
 * @throws KelpError NEWER_DOCUMENT when a later Kelp has written it: nothing of it is touched
 */
export async function migrate(sequelize: Sequelize, file: string): Promise<void> {
  const storage = new SequelizeStorage({ sequelize, modelName: 'migrations' });
  const umzug = new Umzug<QueryInterface>({
    migrations: MIGRATIONS.map(({ name, up }) => ({
      name,
      up: ({ context }: { context: QueryInterface }) => up(context),
    })),
    context: sequelize.getQueryInterface(),
    storage,
    logger: undefined,
  });
  // what is written there, whether it is known here or not
  const done = await storage.executed();
  const later = laterMigration(done);
  if (later !== undefined)
    throw new KelpError(
      'NEWER_DOCUMENT',
      `${file} was written by a newer Kelp (${later}). Update Kelp, or start it with another --data.`,
    );
  const [next] = await umzug.pending();
  if (next && done.length > 0) {
    const copy = `${file}.before-${next.name}`;
    // a copy that was put aside before stays: it is the older one (VACUUM INTO: sqlite.org/lang_vacuum.html)
    if (!existsSync(copy)) await sequelize.query('VACUUM INTO :copy', { replacements: { copy } });
  }
  await umzug.up();
}
