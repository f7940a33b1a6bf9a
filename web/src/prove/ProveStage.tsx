export default function ProveStage() {
  return null;
}
