const ofRevision = (revision?: number) => (revision === undefined ? '' : `?revision=${revision}`);

/** Every path of the HTTP interface, for web and tests; the server mounts its routes by them, with `:id` for an id. */
export const paths = {
  brands: '/api/brands',
  brand: (brandId: string) => `/api/brands/${brandId}`,
  brandMarks: (brandId: string) => `/api/brands/${brandId}/marks`,
  brandRemoved: (brandId: string) => `/api/brands/${brandId}/removed`,
  brandMade: (brandId: string) => `/api/brands/${brandId}/made`,
  /** PDF files to take marks from, their pages, and what is picked on them. */
  brandPdfs: (brandId: string) => `/api/brands/${brandId}/pdfs`,
  brandPicked: (brandId: string) => `/api/brands/${brandId}/picked`,
  pdfPage: (sha: string, page: number | string) => `/api/pdfs/${sha}/pages/${page}`,
  pdfPicture: (sha: string, page: number | string) => `/api/pdfs/${sha}/pages/${page}/picture.png`,
  brandGrounds: (brandId: string) => `/api/brands/${brandId}/grounds`,
  ground: (id: string) => `/api/grounds/${id}`,
  brandGroundPhotos: (brandId: string) => `/api/brands/${brandId}/ground-photos`,
  brandDeliveries: (brandId: string) => `/api/brands/${brandId}/deliveries`,
  mark: (id: string) => `/api/marks/${id}`,
  markRecipe: (id: string) => `/api/marks/${id}/recipe`,
  /** A ground photo, by its content. */
  blob: (sha: string) => `/api/blobs/${sha}`,
  markReturn: (id: string) => `/api/marks/${id}/return`,
  markStep: (id: string, way: 'undo' | 'redo') => `/api/marks/${id}/${way}`,
  markHistory: (id: string) => `/api/marks/${id}/history`,
  markGoTo: (id: string) => `/api/marks/${id}/go-to`,
  markRevision: (id: string, revision: number | string) => `/api/marks/${id}/revisions/${revision}`,
  revisionThumbnail: (id: string, revision: number) => `/api/marks/${id}/revisions/${revision}/thumbnail.png`,
  /** The same on its own grid, so that two revisions lie on one another. */
  revisionWhole: (id: string, revision: number) => `/api/marks/${id}/revisions/${revision}/whole.png`,
  markSiblings: (id: string) => `/api/marks/${id}/siblings`,
  markOriginal: (id: string) => `/api/marks/${id}/original`,
  /** Originals that were replaced by newer files. */
  formerOriginals: (id: string) => `/api/marks/${id}/former-originals`,
  /** `size` is `working` or `reduced`. */
  markPicture: (id: string, size: 'working' | 'reduced') => `/api/marks/${id}/picture/${size}.png`,
  /** Either of them, as a route's pattern. */
  markPictures: (id: string) => `/api/marks/${id}/picture/:size{(working|reduced)\\.png}`,
  /** A mark's working drawing, where it has one. */
  markDrawing: (id: string) => `/api/marks/${id}/drawing.json`,
  markMaster: (id: string, revision?: number) => `/api/marks/${id}/master.png${ofRevision(revision)}`,
  markThumbnail: (id: string, revision?: number) => `/api/marks/${id}/thumbnail.png${ofRevision(revision)}`,
  /** Its variants on grounds, as one picture or PDF. */
  markBoard: (id: string) => `/api/marks/${id}/board`,
  markDeliveries: (id: string) => `/api/marks/${id}/deliveries`,
  delivery: (id: string) => `/api/deliveries/${id}`,
  deliveryEvents: (id: string) => `/api/deliveries/${id}/events`,
  deliveryZip: (id: string) => `/api/deliveries/${id}/zip`,
  deliveryFile: (id: string, position: number | string) => `/api/deliveries/${id}/files/${position}`,
  deliveryCancel: (id: string) => `/api/deliveries/${id}/cancel`,
  deliveryAgain: (id: string) => `/api/deliveries/${id}/again`,
  brandPlacements: (brandId: string) => `/api/brands/${brandId}/placements`,
  placement: (id: string) => `/api/placements/${id}`,
  /** Photos and clips of a run, by upload, or from the brand's own grounds. */
  placementGrounds: (id: string) => `/api/placements/${id}/grounds`,
  placementOwnGrounds: (id: string) => `/api/placements/${id}/own-grounds`,
  placementLook: (id: string) => `/api/placements/${id}/look`,
  placementRun: (id: string) => `/api/placements/${id}/run`,
  placementCancel: (id: string) => `/api/placements/${id}/cancel`,
  placementZip: (id: string) => `/api/placements/${id}/zip`,
  runGround: (id: string) => `/api/run-grounds/${id}`,
  runGroundPreview: (id: string) => `/api/run-grounds/${id}/preview.jpg`,
  /** The photo or clip itself, and the file that was made of it. */
  runGroundOriginal: (id: string) => `/api/run-grounds/${id}/original`,
  runGroundFile: (id: string) => `/api/run-grounds/${id}/file`,
  /** Its marks on a clear frame, for a video program. */
  runGroundOverlay: (id: string) => `/api/run-grounds/${id}/overlay`,
  brandWalls: (brandId: string) => `/api/brands/${brandId}/walls`,
  wall: (id: string) => `/api/walls/${id}`,
  /** Files that are taken in and get a slot, and marks that get one. */
  wallFiles: (id: string) => `/api/walls/${id}/files`,
  wallSlots: (id: string) => `/api/walls/${id}/slots`,
  wallLook: (id: string) => `/api/walls/${id}/look`,
  wallMend: (id: string) => `/api/walls/${id}/mend`,
  wallOut: (id: string) => `/api/walls/${id}/out`,
  wallSlot: (id: string) => `/api/wall-slots/${id}`,
  wallSlotPicture: (id: string, sha?: string) =>
    `/api/wall-slots/${id}/picture.png${sha ? `?of=${sha.slice(0, 16)}` : ''}`,
  brandProofs: (brandId: string) => `/api/brands/${brandId}/proofs`,
  proofs: '/api/proofs',
  ownProof: (id: string) => `/api/proofs/${id}`,
  /** What somebody outside opens; open to whoever has the address. */
  proof: (key: string) => `/proof/${key}`,
  proofData: (key: string) => `/proof/${key}/data`,
  proofPicture: (key: string, picture: number | string) => `/proof/${key}/pictures/${picture}`,
  proofAnswers: (key: string) => `/proof/${key}/answers`,
  brandLive: (brandId: string) => `/api/brands/${brandId}/live`,
  allLive: '/api/live',
  oneLive: (id: string) => `/api/live/${id}`,
  /** The newest finished file of a size line; open to whoever has the address. */
  live: (key: string, name: string) => `/live/${key}/${name}`,
  markBundle: (id: string) => `/api/marks/${id}/bundle`,
  brandBundle: (brandId: string) => `/api/brands/${brandId}/bundle`,
  bundles: '/api/bundles',
  me: '/api/me',
  people: '/api/people',
  person: (id: string) => `/api/people/${id}`,
  changes: '/api/changes',
  /** One variant at a width, as it is laid on a ground. */
  markVariant: (id: string, variant: string) => `/api/marks/${id}/variants/${variant}`,
  brandSurfaces: (brandId: string) => `/api/brands/${brandId}/surfaces`,
  /** Print sheets that are kept. */
  brandPieces: (brandId: string) => `/api/brands/${brandId}/pieces`,
  piece: (id: string) => `/api/pieces/${id}`,
  brandSheets: (brandId: string) => `/api/brands/${brandId}/sheets`,
  pdfLines: (sha: string, page: number | string) => `/api/pdfs/${sha}/pages/${page}/lines`,
  pdfSigned: (sha: string) => `/api/pdfs/${sha}/signed`,
  /** Whether the process lives, and whether it can serve. */
  alive: '/healthz',
  ready: '/readyz',
} as const;
