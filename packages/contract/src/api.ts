/** Paths of the HTTP interface, in one place for the server and the browser. */
export const api = {
  health: '/api/health',
  jobs: '/api/jobs',
  /** Jobs by words, board, state and time: see `jobSearchSchema`. */
  jobSearch: '/api/job-search',
  job: (id: string) => `/api/jobs/${id}`,
  events: (id: string) => `/api/jobs/${id}/events`,
  erase: (id: string) => `/api/jobs/${id}/erase`,
  /** One job with its sheets and pictures as a zip file. */
  jobFile: (id: string) => `/api/jobs/${id}/file`,
  jobFiles: '/api/job-files',
  shop: '/api/shop',
  shelf: '/api/shelf',
  shelfItem: (id: string) => `/api/shelf/${id}`,
  backups: '/api/shop/backups',
  demo: '/api/shop/demo',
  jobAttachments: (id: string) => `/api/jobs/${id}/attachments`,
  attachment: (id: string) => `/api/attachments/${id}`,
  /** Contents of a flash in, kept with the job; out again as a file. */
  jobFirmware: (id: string) => `/api/jobs/${id}/firmware`,
  attachmentFile: (id: string) => `/api/attachments/${id}/file`,
  boards: '/api/boards',
  versions: (id: string) => `/api/boards/${id}/versions`,
  /** Boards that are not offered any more; their jobs stay. */
  archived: (id: string) => `/api/boards/${id}/archived`,
  /** Pictures of a board's sides, and where its parts are on them. */
  look: (id: string) => `/api/boards/${id}/look`,
  boardPictures: (id: string) => `/api/boards/${id}/pictures`,
  boardPicture: (id: string) => `/api/board-pictures/${id}`,
  /** Schematics, placement drawings and data sheets of a board. */
  documents: (board: string) => `/api/boards/${board}/documents`,
  document: (id: string) => `/api/documents/${id}`,
  documentPages: (id: string) => `/api/documents/${id}/pages`,
  places: (id: string) => `/api/boards/${id}/places`,
  /** Lessons of closed jobs; with a scheme also those of other boards of it. */
  habits: (id: string, scheme?: string) =>
    `/api/boards/${id}/habits${scheme === undefined ? '' : `?scheme=${encodeURIComponent(scheme)}`}`,
  /** Closed jobs of a board, and what good ones read. */
  history: (id: string) => `/api/boards/${id}/history`,
  /** Blocks of a report in, a PDF out. */
  print: '/api/print',
  dictionary: (name: string, of?: { board: string; hash: string; bench: string }) =>
    `/api/dictionaries/${name}${of ? `?board=${encodeURIComponent(of.board)}&hash=${of.hash}&bench=${encodeURIComponent(of.bench)}` : ''}`,
  board: (id: string, hash?: string) => `/api/boards/${id}${hash ? `?hash=${hash}` : ''}`,
} as const;

/** Pictures a browser can show and that cannot carry script. */
export const attachmentTypes = ['image/png', 'image/jpeg', 'image/webp'] as const;
export const largestAttachmentBytes = 25 * 1024 * 1024;
/** Contents of a flash: bytes that are not looked into. */
export const firmwareType = 'application/octet-stream';
export const keptTypes = [...attachmentTypes, firmwareType] as const;
/** The largest flash of a mainboard holds half of it. */
export const largestFirmwareBytes = 64 * 1024 * 1024;
export const largestDocumentBytes = 64 * 1024 * 1024;
export const largestDictionaryBytes = 32 * 1024 * 1024;
export const largestSheetCharacters = 1_000_000;
