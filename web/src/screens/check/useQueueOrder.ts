import { useState } from "react";
import type { QueueOrder } from "@/api/client";

const KEPT = "first-loop.queue-order";

/** The order of the queue, kept on this machine so that the next row is the next of what was chosen. */
export function useQueueOrder(): [QueueOrder, (order: QueueOrder) => void] {
  const [order, setOrder] = useState<QueueOrder>(
    localStorage.getItem(KEPT) === "newest" ? "newest" : "worrying",
  );
  return [
    order,
    (next) => {
      localStorage.setItem(KEPT, next);
      setOrder(next);
    },
  ];
}
