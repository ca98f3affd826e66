import type { BakeFormat } from '@kelp/formats';
import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type ModelStatic,
  type Sequelize,
} from 'sequelize';

export interface ProjectRow extends Model<InferAttributes<ProjectRow>, InferCreationAttributes<ProjectRow>> {
  id: string;
  name: string;
  revision: number;
  createdAt: CreationOptional<Date>;
  updatedAt: CreationOptional<Date>;
  deletedAt: CreationOptional<Date | null>;
}

export interface RevisionRow extends Model<InferAttributes<RevisionRow>, InferCreationAttributes<RevisionRow>> {
  projectId: string;
  number: number;
  document: string;
  createdAt: CreationOptional<Date>;
}

export interface PropRow extends Model<InferAttributes<PropRow>, InferCreationAttributes<PropRow>> {
  hash: string;
  bytes: Buffer;
  triangles: number;
  createdAt: CreationOptional<Date>;
}

export interface CoverRow extends Model<InferAttributes<CoverRow>, InferCreationAttributes<CoverRow>> {
  projectId: string;
  bytes: Buffer;
  updatedAt: CreationOptional<Date>;
}

export type BakeStatus = 'queued' | 'running' | 'done' | 'failed' | 'cancelled';

export interface BakeRow extends Model<InferAttributes<BakeRow>, InferCreationAttributes<BakeRow>> {
  id: string;
  projectId: string;
  revision: number;
  piece: string | null;
  density: number;
  format: CreationOptional<BakeFormat>;
  /** JSON; none of a bake of an earlier Kelp. */
  settings: CreationOptional<string | null>;
  status: BakeStatus;
  report: CreationOptional<string | null>;
  error: CreationOptional<string | null>;
  result: CreationOptional<Buffer | null>;
  createdAt: CreationOptional<Date>;
  finishedAt: CreationOptional<Date | null>;
}

export interface Models {
  projects: ModelStatic<ProjectRow>;
  revisions: ModelStatic<RevisionRow>;
  props: ModelStatic<PropRow>;
  bakes: ModelStatic<BakeRow>;
  covers: ModelStatic<CoverRow>;
}

export function defineModels(sequelize: Sequelize): Models {
  const { STRING, INTEGER, TEXT, BLOB, DATE, FLOAT } = DataTypes;
  const created = { createdAt: 'createdAt', updatedAt: false } as const;
  return {
    projects: sequelize.define<ProjectRow>(
      'project',
      {
        id: { type: STRING, primaryKey: true },
        name: STRING,
        revision: INTEGER,
        createdAt: DATE,
        updatedAt: DATE,
        deletedAt: DATE,
      },
      { tableName: 'projects', timestamps: true, paranoid: true },
    ),
    revisions: sequelize.define<RevisionRow>(
      'revision',
      {
        projectId: { type: STRING, primaryKey: true },
        number: { type: INTEGER, primaryKey: true },
        document: TEXT,
        createdAt: DATE,
      },
      { tableName: 'revisions', ...created },
    ),
    props: sequelize.define<PropRow>(
      'prop',
      { hash: { type: STRING, primaryKey: true }, bytes: BLOB, triangles: INTEGER, createdAt: DATE },
      { tableName: 'props', ...created },
    ),
    bakes: sequelize.define<BakeRow>(
      'bake',
      {
        id: { type: STRING, primaryKey: true },
        projectId: STRING,
        revision: INTEGER,
        piece: STRING,
        density: FLOAT,
        format: STRING,
        settings: TEXT,
        status: STRING,
        report: TEXT,
        error: TEXT,
        result: BLOB,
        createdAt: DATE,
        finishedAt: DATE,
      },
      { tableName: 'bakes', ...created },
    ),
    covers: sequelize.define<CoverRow>(
      'cover',
      { projectId: { type: STRING, primaryKey: true }, bytes: BLOB, updatedAt: DATE },
      { tableName: 'covers', createdAt: false, updatedAt: 'updatedAt' },
    ),
  };
}
