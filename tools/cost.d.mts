export function spentBy(root: number): number;
export function writeCost(file: string, seconds: number): void;
export function dearest(count: number): string[];
