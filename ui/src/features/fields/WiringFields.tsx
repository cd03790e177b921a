import type { CableFigures, FuseFigures, Reference } from "../../api/types";
import { NumberField } from "../../editor/NumberField";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import { boundTo, type FieldsProps } from "./fields";

/** A cable that is sold by the metre. */
export function CableFields(props: FieldsProps<CableFigures> & Pick<Reference, "sizes">) {
  const { value, label, set, sizes } = props;
  return (
    <Row name="Size" help="price and mass: those of a metre, one conductor">
      <Choose
        label={`${label}: size`}
        value={value.size}
        options={sizes.map((one) => [one.name, `${one.name} (${one.other})`] as const)}
        onChange={(size) => set("size", { size })}
      />
    </Row>
  );
}

/** Fuses of a kind, with their holder. */
export function FuseFields(props: FieldsProps<FuseFigures> & Pick<Reference, "fuse_kinds">) {
  const { value, label, set, fuse_kinds } = props;
  return (
    <>
      <Row name="Kind">
        <Choose
          label={`${label}: kind`}
          value={value.kind}
          options={fuse_kinds.map((one) => [one.key, one.name] as const)}
          onChange={(kind) => set("kind", { kind })}
        />
      </Row>
      <Row name="Sizes" help="all up to this; its price goes for each of them">
        <NumberField {...boundTo(props).number("amps", "amps")} width="w-16" unit="A" />
      </Row>
    </>
  );
}
