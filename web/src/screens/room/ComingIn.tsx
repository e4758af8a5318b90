import { useState } from "react";
import type { RoomSeen } from "@/api/client";
import { Choice } from "@/ui/Choice";

/** How a tablet comes in: a picture for its camera, or an address and the code, large enough for the board. */
export function ComingIn({ room }: { room: RoomSeen }) {
  const [at, setAt] = useState(room.ways_in[0]?.address ?? "");
  const way = room.ways_in.find((one) => one.address === at) ?? room.ways_in[0];
  if (!way)
    return (
      <p className="border-l-4 border-ochre pl-3">
        No other device reaches this machine just now. Join it to the network that the tablets are on, then
        start First Loop again.
      </p>
    );
  return (
    <section aria-label="Coming in" className="flex flex-wrap items-center gap-10">
      <svg
        viewBox={`0 0 ${way.qr.size} ${way.qr.size}`}
        className="h-72 w-72 bg-sheet"
        role="img"
        aria-label={`QR code of ${way.address}/tablet`}
        shapeRendering="crispEdges"
      >
        <path d={way.qr.path} fill="var(--color-ink)" />
      </svg>
      <div>
        <p className="text-graphite">The code</p>
        <p className="text-[72px] leading-tight font-bold tracking-[0.18em]">{room.code}</p>
        <p className="mt-2 text-graphite">at</p>
        <p className="text-title">{way.address}/tablet</p>
        {room.ways_in.length > 1 && (
          <div className="mt-3">
            <Choice
              name="Address"
              shown
              options={room.ways_in.map(({ address }) => ({
                value: address,
                words: address.replace(/^https?:\/\//, ""),
              }))}
              chosen={way.address}
              onChoose={setAt}
            />
          </div>
        )}
        <p className="mt-4 text-small text-graphite">
          Your own phone comes in at the same address with <strong>{room.phone_code}</strong> and brings
          photographs of pages in.
        </p>
      </div>
    </section>
  );
}
