import { Hono } from 'hono';
import { secureHeaders } from 'hono/secure-headers';
import { html } from 'hono/html';
import QRCode from 'qrcode';
import { contentPolicy } from '../security';

export interface Trust {
  /** The authority's certificate, PEM. */
  readonly authority: string;
  readonly fingerprint: string;
  /** Where the application is, over TLS. */
  readonly address: string;
}

/** The one page without TLS: how a phone comes to trust the workshop's own authority. It tells nothing else. */
export function trustPage(t: Trust): Hono {
  const app = new Hono();
  app.use(secureHeaders({ xFrameOptions: 'DENY', referrerPolicy: 'no-referrer', strictTransportSecurity: false }));
  app.get('/gavrel-authority.crt', (c) =>
    c.body(t.authority, 200, { 'content-type': 'application/x-x509-ca-cert', 'cache-control': 'no-store' }),
  );
  app.get('*', async (c) => {
    const code = await QRCode.toDataURL(t.address, { margin: 2, width: 240 });
    const page = await html`<!doctype html>
      <html lang="en">
        <head>
          <meta charset="utf-8" />
          <meta name="viewport" content="width=device-width, initial-scale=1" />
          <title>Gavrel on this phone</title>
          <style>
            body {
              font: 18px/1.5 sans-serif;
              max-width: 38em;
              margin: 0 auto;
              padding: 1em;
              color: #1b1a16;
              background: #f2eee3;
            }
            a.key {
              display: block;
              padding: 1em;
              background: #0b5567;
              color: #fff;
              text-align: center;
              font-weight: bold;
            }
            h1 {
              font-size: 28px;
              line-height: 1.2;
            }
            code {
              font-size: 15px;
              word-break: break-all;
            }
            li {
              margin: 0.5em 0;
            }
          </style>
        </head>
        <body>
          <h1>Gavrel on this phone</h1>
          <p>
            A phone keeps unsent work only at a secure address. This workshop vouches for its own; your phone must be told once.
          </p>
          <ol>
            <li>
              Compare this with what the server's screen says. If one pair differs, stop and tell the lead.<br /><code
                >${t.fingerprint}</code
              >
            </li>
            <li><a class="key" href="/gavrel-authority.crt">Get the workshop's certificate</a></li>
            <li><b>In the settings</b> search for "CA certificate" and install the file. Menus differ from phone to phone.</li>
            <li>
              <b>Where it comes as a profile:</b> install that, then switch on full trust for it under the certificate settings.
            </li>
            <li>Open <a href="${t.address}">${t.address}</a> and put it on the home screen.</li>
          </ol>
          <p><img src="${code}" width="240" height="240" alt="${t.address}" /></p>
          <p>
            The certificate is good for this workshop's own network only, by its own words. Remove it when you leave the workshop.
          </p>
        </body>
      </html>`;
    return c.html(page, 200, { 'content-security-policy': contentPolicy(String(page)) });
  });
  return app;
}
