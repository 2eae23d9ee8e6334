/** A document without drawings: the words do, and it is said how a drawing comes in. */
export function NoDrawing() {
  return (
    <p className="text-sm text-quiet">
      This car has no drawing of its dash yet. Enter it in the library in the document of the car, or build the car anew
      from its leaflet.
    </p>
  );
}
