/** The hues of a comparison, for what is drawn by hand. */
export function hues() {
  const style = getComputedStyle(document.documentElement);
  const colour = (name: string) => style.getPropertyValue(`--chakra-colors-${name}`).trim();
  return {
    a: colour("clay"),
    b: colour("slate"),
    same: colour("same"),
    ground: colour("raised"),
    ink: colour("ink"),
    loss: colour("loss"),
  };
}
