import { Router, type Response } from 'express';
import type { ReportService } from './service.ts';

const text = (value: unknown) => (typeof value === 'string' && value !== '' ? value : undefined);

function attach(res: Response, name: string, download: boolean): void {
  res.setHeader('Content-Disposition', `${download ? 'attachment' : 'inline'}; filename*=UTF-8''${encodeURIComponent(name)}`);
}

export function reportRoutes(reports: ReportService): Router {
  const router = Router();
  router.get('/studies/:id/report.html', (req, res) => {
    const page = reports.page(req.params.id, text(req.query.a), text(req.query.b));
    attach(res, page.name, req.query.download === 'true');
    // The page carries its own style and nothing else: no scripts, no requests.
    res.setHeader('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'; font-src data:; frame-ancestors 'self'");
    res.type('html').send(page.text);
  });
  router.get('/studies/:id/readings.csv', (req, res) => {
    const file = reports.csv(req.params.id, text(req.query.a), text(req.query.b));
    attach(res, file.name, true);
    res.type('text/csv').send(file.text);
  });
  return router;
}
