import type { ReactNode } from 'react';
import { OpenedPiece } from '@/features/piece/opened-piece';
import { ANY } from '@/server/shell';

/** One page of each kind is built for all pieces: `SHELLS` leads their addresses to it. */
export const dynamicParams = false;
export const generateStaticParams = (): { piece: string }[] => [{ piece: ANY }];

/** Asks for the piece of the address while the page's program is still on its way. */
const EARLY = `(()=>{const id=location.pathname.split('/')[2];for(const href of ['/api/pieces/'+id+'/open','/api/views/studio?studio=']){const link=document.createElement('link');Object.assign(link,{rel:'preload',as:'fetch',crossOrigin:'anonymous',href});document.head.append(link)}})()`;

/** The piece itself is not in the page: the page asks for it while it comes to life. */
export default function PieceLayout({ children }: { readonly children: ReactNode }) {
  return (
    <>
      <script suppressHydrationWarning dangerouslySetInnerHTML={{ __html: EARLY }} />
      <OpenedPiece>{children}</OpenedPiece>
    </>
  );
}
