import { useStudio } from "../../api/queries";

/** The colour that a line of an order is drawn in, by its id. */
export function useLineColours(lines: () => { id: string; recipe: string; colourway: string }[] | undefined) {
  const { data: studio } = useStudio();
  return (id: string): string | undefined => {
    const line = lines()?.find((l) => l.id === id);
    return line && studio.value?.flowers.find((f) => f.id === line.recipe)?.colours[line.colourway];
  };
}
