import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Paper from "@mui/material/Paper";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useState, type ReactNode } from "react";
import {
  isTrusted,
  useAccess,
  useAccessActions,
  useField,
  usePairedDevices,
  type PairingCode,
} from "../api/access";
import type { Problem } from "../api/client";
import { ProblemNote, Waiting } from "../shell/notes";
import { momentHere } from "../shell/time";
import { useNow } from "../shell/useNow";
import { AddressPicture } from "./AddressPicture";

function Card({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Paper
      component="section"
      aria-label={title}
      variant="outlined"
      sx={{ borderRadius: "14px", p: 1.5, mb: 1 }}
    >
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {title}
      </Typography>
      {children}
    </Paper>
  );
}

/** Reaching Lark from a phone: listening, pairing, trusting, and who is let in. */
export function PhonePage() {
  const access = useAccess();
  const field = useField();
  useEffect(() => {
    document.title = "Phone · Lark";
  }, []);
  const problem = (access.error ?? field.error) as Problem | null;
  if (problem)
    return (
      <ProblemNote
        problem={problem}
        again={() => {
          void access.refetch();
          void field.refetch();
        }}
      />
    );
  if (!access.data || !field.data) return <Waiting what="the devices" />;
  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 820 }}>
      <Typography variant="h1" sx={{ mb: 1 }}>
        Phone
      </Typography>
      {!access.data.here && <Trust />}
      {access.data.here && field.data.possible && <Listening field={field.data} />}
      {field.data.listening && <Pairing />}
      <Devices />
      <PassPhrase isSet={access.data.phrase_set} />
    </Box>
  );
}

function Listening({ field }: { field: NonNullable<ReturnType<typeof useField>["data"]> }) {
  const { listen } = useAccessActions();
  return (
    <Card title="On the local network">
      <FormControlLabel
        sx={{ minHeight: 48 }}
        control={
          <Switch
            checked={listen.isPending ? listen.variables : field.listening}
            disabled={listen.isPending}
            onChange={(_, on) => listen.mutate(on)}
          />
        }
        label="Let paired devices on this network reach Lark"
      />
      <Typography variant="body2" color="text.secondary">
        {field.listening
          ? "Encrypted, for paired devices alone. It stays so until Lark is stopped; lark serve --field begins with it."
          : "Off: only this computer reaches Lark. Phone and computer need to be on the same network."}
      </Typography>
      {field.addresses.map((address) => (
        <Typography key={address} sx={{ fontFamily: "monospace" }}>
          {address}
        </Typography>
      ))}
      {field.fingerprint && (
        <Typography variant="body2" sx={{ overflowWrap: "anywhere", mt: 0.5 }}>
          Fingerprint of its certificate authority (SHA-256): {field.fingerprint}
        </Typography>
      )}
      {listen.error && <ProblemNote problem={listen.error as Problem} />}
    </Card>
  );
}

function Pairing() {
  const { code } = useAccessActions();
  return (
    <Card title="Pair a device">
      {code.data ? (
        <Code made={code.data} />
      ) : (
        <Typography variant="body2" color="text.secondary">
          The phone opens the address by its camera. The first time it warns that it doesn’t know
          Lark’s certificate: go on for once; the page that opens then says how to trust it.
        </Typography>
      )}
      <Button
        variant={code.data ? "outlined" : "contained"}
        disabled={code.isPending}
        onClick={() => code.mutate()}
        sx={{ mt: 1 }}
      >
        {code.data ? "Another code" : "Make a code"}
      </Button>
      {code.error && <ProblemNote problem={code.error as Problem} />}
    </Card>
  );
}

function Code({ made }: { made: PairingCode }) {
  const now = useNow(1_000);
  const left = Math.max(0, Math.round((Date.parse(made.expires_at) - now.getTime()) / 1000));
  if (left === 0) return <Alert severity="info">That code has expired.</Alert>;
  return (
    <AddressPicture addresses={made.addresses}>
      <Typography variant="h2" component="p" aria-label="Code" sx={{ letterSpacing: "0.08em" }}>
        {made.code}
      </Typography>
      <Typography color="text.secondary">
        Works once, for another {Math.floor(left / 60)}:{String(left % 60).padStart(2, "0")} min.
      </Typography>
    </AddressPicture>
  );
}

function Trust() {
  const [trusted, setTrusted] = useState<boolean | null>(null);
  const test = () => {
    setTrusted(null);
    void isTrusted().then(setTrusted);
  };
  useEffect(() => {
    void isTrusted().then(setTrusted);
  }, []);
  return (
    <Card title="Trust on this device">
      {trusted === null ? (
        <Typography role="status">Testing…</Typography>
      ) : trusted ? (
        <Alert severity="success">
          This device trusts Lark: its pages are kept here and open without a network.
        </Alert>
      ) : (
        <>
          <Alert severity="warning">
            This device doesn’t trust Lark’s certificate yet. Until then nothing works without a
            network.
          </Alert>
          <Box component="ol" sx={{ pl: 2.5, my: 1 }}>
            <li>
              <a href="/api/access/authority.crt" download>
                Download the certificate
              </a>
              .
            </li>
            <li>Compare its SHA-256 fingerprint with the one on Lark’s computer, under Phone.</li>
            <li>
              In the device’s settings search for “certificate” and install it as a certificate
              authority. Some devices ask you to switch on full trust for it as well.
            </li>
            <li>Close this page, open it again, and test.</li>
          </Box>
          <Button variant="outlined" onClick={test}>
            Test again
          </Button>
        </>
      )}
    </Card>
  );
}

function Devices() {
  const devices = usePairedDevices();
  const { withdraw, signOut } = useAccessActions();
  const found = devices.data ?? [];
  return (
    <Card title="Paired devices">
      {devices.data?.length === 0 && (
        <Typography color="text.secondary">None: only this computer reaches Lark.</Typography>
      )}
      <Box component="ul" aria-label="Paired devices" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {found.map((device) => (
          <Box
            component="li"
            key={device.id}
            sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 48 }}
          >
            <Box sx={{ flex: 1, minWidth: 0 }}>
              <b>{device.name}</b>
              {device.this && " (this device)"}
              <Typography variant="body2" color="text.secondary">
                Paired {momentHere(device.paired_at)}, last seen {momentHere(device.seen_at)}
              </Typography>
            </Box>
            {device.this ? (
              <Button color="error" onClick={() => signOut.mutate()}>
                Sign out
              </Button>
            ) : (
              <Button
                color="error"
                aria-label={`Withdraw ${device.name}`}
                onClick={() => withdraw.mutate(device.id)}
              >
                Withdraw
              </Button>
            )}
          </Box>
        ))}
      </Box>
      {withdraw.error && <ProblemNote problem={withdraw.error as Problem} />}
    </Card>
  );
}

function PassPhrase({ isSet }: { isSet: boolean }) {
  const { phrase } = useAccessActions();
  const [typed, setTyped] = useState("");
  return (
    <Card title="Pass phrase">
      <Typography variant="body2" color="text.secondary">
        {isSet
          ? "Set. A device can sign in by it without a code. Changing it withdraws every paired device."
          : "Not set: devices come in by a code alone. With a phrase they can sign in when you are away from Lark’s computer."}
      </Typography>
      <Box
        component="form"
        sx={{ display: "flex", gap: 1, alignItems: "flex-start", flexWrap: "wrap" }}
        onSubmit={(e) => {
          e.preventDefault();
          phrase.mutate(typed, { onSuccess: () => setTyped("") });
        }}
      >
        <TextField
          margin="dense"
          type="password"
          autoComplete="new-password"
          label={isSet ? "New pass phrase" : "Pass phrase"}
          helperText="12 characters or more; four or more words at random are good."
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          sx={{ flex: "1 1 260px" }}
          slotProps={{ htmlInput: { maxLength: 200 } }}
        />
        <Button type="submit" disabled={typed === "" || phrase.isPending} sx={{ mt: 1.5 }}>
          {isSet ? "Change it and withdraw all" : "Set it"}
        </Button>
      </Box>
      {phrase.isSuccess && <Alert severity="success">The pass phrase is set.</Alert>}
      {phrase.error && <ProblemNote problem={phrase.error as Problem} />}
    </Card>
  );
}
