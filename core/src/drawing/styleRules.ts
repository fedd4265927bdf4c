/** Style sheets as their rules, in time that grows with their length whatever they hold. */

function withoutComments(css: string): string {
  const kept: string[] = [];
  let at = 0;
  for (let open = css.indexOf('/*'); open >= 0; open = css.indexOf('/*', at)) {
    kept.push(css.slice(at, open));
    const close = css.indexOf('*/', open + 2);
    // a comment that is not closed runs to the end (CSS Syntax 3, 4.3.2)
    if (close < 0) return kept.join('');
    at = close + 2;
  }
  return kept.join('') + css.slice(at);
}

/** Each innermost block with the selectors before it. */
export function rulesOf(css: string): { selectors: string[]; body: string }[] {
  return withoutComments(css)
    .split('}')
    .flatMap((piece) => {
      const open = piece.lastIndexOf('{');
      if (open < 0) return [];
      const head = piece.slice(0, open);
      const selectors = head.slice(head.lastIndexOf('{') + 1).split(',');
      return [{ selectors: selectors.map((s) => s.trim()), body: piece.slice(open + 1) }];
    });
}
