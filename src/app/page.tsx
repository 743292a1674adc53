import { Scenes } from "@/ui/scenes/Scenes";

export default function Page() {
  return <Scenes />;
}
