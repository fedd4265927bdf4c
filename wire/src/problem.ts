/** Errors as the API tells them: RFC 9457 problem details. */
export interface Problem {
  type: 'about:blank';
  title: string;
  status: number;
  /** One line: what was wrong, and where. */
  detail: string;
  /** Each field that is wrong as "path: what is wrong". */
  problems?: string[];
}
