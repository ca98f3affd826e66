import { DataTypes, type QueryInterface, type Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';

const { STRING, INTEGER, TEXT, BLOB, DATE, FLOAT } = DataTypes;

interface Migration {
  name: string;
  up(context: QueryInterface): Promise<void>;
}

/** In order; a migration that has left the house is never changed, the next one mends it. */
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
];

export async function migrate(sequelize: Sequelize): Promise<void> {
  const umzug = new Umzug<QueryInterface>({
    migrations: MIGRATIONS.map(({ name, up }) => ({
      name,
      up: ({ context }: { context: QueryInterface }) => up(context),
    })),
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, modelName: 'migrations' }),
    logger: undefined,
  });
  await umzug.up();
}
