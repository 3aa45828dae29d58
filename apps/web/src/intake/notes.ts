/** Signs of what is noted about a cell: it gave no value, it is taken as written and to be looked at, or it was repaired. */
export const signOf = ({ lost, told }: { lost: boolean; told?: boolean | undefined }): string =>
  lost ? '✕' : told ? '!' : '≈';
