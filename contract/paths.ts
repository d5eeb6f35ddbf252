/** Every path of the HTTP interface, for server routes, web and tests alike. */
export const paths = {
  brands: '/api/brands',
  brand: (brandId: string) => `/api/brands/${brandId}`,
  brandMarks: (brandId: string) => `/api/brands/${brandId}/marks`,
  brandMade: (brandId: string) => `/api/brands/${brandId}/made`,
  brandGrounds: (brandId: string) => `/api/brands/${brandId}/grounds`,
  brandDeliveries: (brandId: string) => `/api/brands/${brandId}/deliveries`,
  mark: (id: string) => `/api/marks/${id}`,
  markRecipe: (id: string) => `/api/marks/${id}/recipe`,
  markStep: (id: string, way: 'undo' | 'redo') => `/api/marks/${id}/${way}`,
  markSiblings: (id: string) => `/api/marks/${id}/siblings`,
  markOriginal: (id: string) => `/api/marks/${id}/original`,
  /** `size` is `working` or `reduced`. */
  markPicture: (id: string, size: 'working' | 'reduced') => `/api/marks/${id}/picture/${size}.png`,
  markMaster: (id: string, revision: number) => `/api/marks/${id}/master.png?revision=${revision}`,
  markThumbnail: (id: string, revision: number) => `/api/marks/${id}/thumbnail.png?revision=${revision}`,
  markDeliveries: (id: string) => `/api/marks/${id}/deliveries`,
  delivery: (id: string) => `/api/deliveries/${id}`,
  deliveryEvents: (id: string) => `/api/deliveries/${id}/events`,
  deliveryZip: (id: string) => `/api/deliveries/${id}/zip`,
  deliveryCancel: (id: string) => `/api/deliveries/${id}/cancel`,
} as const;
