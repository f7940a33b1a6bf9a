export default function ShipStage() {
  return null;
}
