import Link from "next/link";

export default function NotFound() {
	return (
		<main className="grid h-full place-items-center">
			<p>
				There is no such shot.{" "}
				<Link href="/" className="underline underline-offset-4">
					Open the first one
				</Link>
			</p>
		</main>
	);
}
