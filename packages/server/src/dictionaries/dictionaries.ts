/** Dictionaries that browsers made, by the name of their content. A cache: any of them may go. */
export interface DictionaryStore {
  read(name: string): Promise<Buffer | null>;
  keep(name: string, content: Buffer): Promise<void>;
}
