export default function ActStage() {
  return null;
}
