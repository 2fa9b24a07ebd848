interface LoggedError {
  type: string;
  message: string;
  code?: string;
  stack?: string;
}

/**
 * What a log says of an error: what kind, its code, its first line and where. What was being written
 * (`parameters`, the values in `detail`) is somebody's words or picture and stays out of it.
 */
export function loggedError(error: unknown): LoggedError {
  if (!(error instanceof Error)) return { type: typeof error, message: 'no error was thrown' };
  const { code } = error as { code?: unknown };
  return {
    type: error.constructor.name,
    message: error.message.split('\n')[0]!.slice(0, 300),
    ...(typeof code === 'string' && { code }),
    ...(error.stack !== undefined && { stack: placesOf(error.stack) }),
  };
}

/** Where it was thrown; the message, which stands before, may be as long as what was sent. */
const placesOf = (stack: string): string =>
  stack
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .slice(0, 20)
    .join('\n');
