import { type Inspection, inspectModel, type Model, readModel } from '@kelp/formats';

export interface ReadFile {
  name: string;
  model: Model;
  inspection: Inspection;
}

/** Reads a dropped or chosen mesh file and looks it over. @throws KelpError with a sentence for the person */
export async function readFile(file: File): Promise<ReadFile> {
  const model = await readModel(file.name, new Uint8Array(await file.arrayBuffer()));
  return { name: file.name, model, inspection: inspectModel(model) };
}
