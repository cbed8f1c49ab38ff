"use client";
/** A sheet over the frame and what is below it; the ticket stays beside it, and can be used. */
import clsx from "clsx";
import { Dialog } from "radix-ui";
import type { ComponentProps, ReactNode } from "react";

interface OverFrameProps extends Omit<ComponentProps<typeof Dialog.Content>, "title"> {
	open: boolean;
	onOpenChange: (open: boolean) => void;
	title: ReactNode;
	/** What stands between the title and the way out. */
	head?: ReactNode;
	testId: string;
}

export function OverFrame({ open, onOpenChange, title, head, testId, className, children, ...rest }: OverFrameProps) {
	return (
		<Dialog.Root modal={false} open={open} onOpenChange={onOpenChange}>
			<Dialog.Portal>
				<Dialog.Content
					aria-describedby={undefined}
					className={clsx("fade fixed inset-y-0 left-0 z-20 flex flex-col bg-mat p-6", className)}
					style={{ right: "18.5rem" }}
					data-testid={testId}
					onInteractOutside={(e) => e.preventDefault()}
					{...rest}
				>
					<div className="flex items-baseline justify-between gap-4 border-ink border-b-2 pb-2">
						<Dialog.Title className="font-title text-[1.5rem] italic">{title}</Dialog.Title>
						{head}
						<Dialog.Close className="underline underline-offset-4">Close</Dialog.Close>
					</div>
					{children}
				</Dialog.Content>
			</Dialog.Portal>
		</Dialog.Root>
	);
}
