/** The mark: a down-bow and an up-bow as two sails over a string. */
export function Brand() {
  return (
    <span className="inline-flex items-center gap-3">
      <img src="/mark.svg" width={30} height={22} alt="" />
      <span className="font-serif text-name font-bold">Gestometra</span>
    </span>
  );
}
