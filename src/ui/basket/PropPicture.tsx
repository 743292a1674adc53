"use client";
/** Pictures of props, rendered from their meshes, and of mixes, made of those of their props. */
import type { Mix, Prop } from "@/core/scene";
import { useScene } from "@/store";
import { usePictures } from "../assets";

interface PictureProps {
  size: number;
}

const FRAME = "inline-grid shrink-0 place-items-center overflow-hidden rounded-md";

export function PropPicture({ prop, size }: PictureProps & { prop: Prop }) {
  const pictures = usePictures(prop);
  return (
    <span className={FRAME} style={{ width: size, height: size }}>
      {pictures && (
        // The picture is made in the browser; there is nothing for an image service to do.
        // oxlint-disable-next-line nextjs/no-img-element
        <img src={pictures.cardUrl} alt="" width={size} height={size} draggable={false} />
      )}
    </span>
  );
}

/** The first four props of a mix, side by side. */
export function MixPicture({ mix, size }: PictureProps & { mix: Mix }) {
  const props = useScene((scene) => scene.props);
  const shown = mix.props.flatMap((one) => props.find(({ id }) => id === one.prop) ?? []).slice(0, 4);
  return (
    <span className={`${FRAME} grid-cols-2`} style={{ width: size, height: size }}>
      {shown.map((prop) => (
        <PropPicture key={prop.id} prop={prop} size={size / 2} />
      ))}
    </span>
  );
}
