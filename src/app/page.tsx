import { Scenes } from "@/ui/scenes";

export default function Page() {
  return <Scenes />;
}
