import { Key } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { KEYS } from "./screens";

export function KeysDialog(props: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog title="Keys" {...props}>
      <div className="grid grid-cols-2 gap-6">
        {KEYS.map(({ where, keys }) => (
          <section key={where}>
            <h3 className="mb-1 border-b border-hair font-bold">{where}</h3>
            <dl>
              {keys.map(([key, does]) => (
                <div key={key} className="flex gap-2 py-[2px]">
                  <dt className="w-16 shrink-0">
                    {key.split(" ").map((one) => (
                      <span key={one} className="mr-1">
                        <Key>{one}</Key>
                      </span>
                    ))}
                  </dt>
                  <dd className="text-graphite">{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Dialog>
  );
}
