"use client";

export default function Trouble({ reset }: { error: Error; reset: () => void }) {
	return (
		<main className="grid h-full place-items-center">
			<p role="alert">
				The page could not be made; the database may be away. Nothing is lost.{" "}
				<button type="button" className="underline underline-offset-4" onClick={reset}>
					Try again
				</button>
			</p>
		</main>
	);
}
