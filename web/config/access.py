"""Who may open what, in one place. A view in none of these lists needs a signed-in clinician."""

PUBLIC_VIEWS = frozenset(
    {
        "healthz",
        "readyz",
        "service_worker",
        "words",
        "clinic:accept_invitation",
        "account_login",
        "account_logout",
        "account_signup",
        "account_inactive",
        "account_reset_password",
        "account_reset_password_done",
        "account_reset_password_from_key",
        "account_reset_password_from_key_done",
        "account_confirm_email",
        "account_email_verification_sent",
        "account_reauthenticate",
        "account_confirm_login_code",
        "account_request_login_code",
        "account_complete_signup",
        "mfa_authenticate",
        "mfa_login_webauthn",
        "mfa_signup_webauthn",
        "mfa_trust",
    }
)
CLIENT_VIEWS = frozenset(
    {
        "practice:enter",
        "practice:today",
        "practice:practice",
        "practice:open_session",
        "practice:finished",
        "practice:renew_ticket",
        "review:own_reeds",
        "papers:own_calendar",
        "practice:hearing",
        "practice:later",
        "practice:usual_voice",
        "practice:leave",
        "simulated_voice",
    }
)
TICKET_VIEWS = frozenset({"attempt", "practice:entry"})
LEAD_VIEWS = frozenset(
    {
        "clinic:clinic",
        "clinic:invite",
        "clinic:set_staff",
        "clinic:set_deputy",
        "clients:erase",
        "clients:access",
        "records:record",
        "records:records",
        "records:take_in",
        "records:whole_clinic",
        "records:progress",
        "review:clinic_numbers",
        "review:try_number",
        "review:bring",
    }
)
