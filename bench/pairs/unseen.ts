import { pair, type Pair } from './notation';

/** Pairs written before the matcher was last worked on, and left alone. */
export const unseenPairs: Pair[] = [
  pair(
    'boat hire to bookings',
    `a1 | What is your full name? | text | Ilse Brandt
     a2 | What e-mail address should we write to? | text | ilse@example.org
     a3 | On which number can we reach you on the day? | text | 020 7946 0111
     a4 | Emergency contact: name | text | Amos Reed
     a5 | Emergency contact: phone | text | 020 7946 0199
     a6 | When would you like to set off? | date | 2026-06-01
     a7 | How many people will be on board? | number | 4
     a8 | Which boat? | choice | Punt / Canoe
     a9 | Any medical conditions we should know about? | multiline | none
     a10 | I have read the safety rules | boolean | true`,
    `guest_first_name | First name | string | a1
     guest_last_name | Last name | string | a1
     email | | email | a2
     mobile | Mobile phone | phone | a3
     ice_name | Emergency contact name | string | a4
     ice_phone | Emergency contact phone | phone | a5
     start_date | Start date | date | a6
     party_size | Number of people | integer | a7
     boat_type | Boat | choice (Punt, Canoe, Kayak) | a8
     medical_notes | Medical notes | text | a9
     terms_accepted | | boolean | a10
     deposit_paid | Deposit paid | boolean | -
     invoice_number | Invoice no. | string | -`,
  ),
  pair(
    'Webshop-Rückgabe',
    `f_101 | Ihre Bestellnummer | text | R-20811
     f_102 | Vorname | text | Jonas
     f_103 | Nachname | text | Brandt
     f_104 | E-Mail | email | jonas@example.org
     f_105 | Rechnungsadresse | multiline | Uferweg 3, 12345 Erlental
     f_106 | Lieferadresse | multiline | Am Wehr 1, 12345 Erlental
     f_107 | Welcher Artikel? | text | Wathose
     f_108 | Grund der Rückgabe | choice | zu klein / defekt
     f_109 | Fotos des Schadens | files |
     f_110 | IBAN für die Erstattung | text | DE00`,
    `order_number | | string | f_101
     given_name | | string | f_102
     surname | | string | f_103
     contact_email | | email | f_104
     shipping_address | | string | f_106
     billing_address | | string | f_105
     item | Product | string | f_107
     reason | Reason | string | f_108
     attachments | Photos | file | f_109
     bank_account | IBAN | string | f_110
     warehouse | | string | -
     refund_amount | | number | -`,
  ),
  pair(
    'Inscription au club',
    `champ1 | Civilité | choice | Mme / M.
     champ2 | Nom | text | Moulin
     champ3 | Prénom | text | Élodie
     champ4 | Date de naissance | date | 12/03/1984
     champ5 | Adresse | multiline | 3 rue du Moulin
     champ6 | Code postal | text | 75000
     champ7 | Ville | text | Valclair
     champ8 | Téléphone fixe | phone | 01 99 00 11 22
     champ9 | Téléphone portable | phone | 06 39 98 11 22
     champ10 | Adresse électronique | email | elodie@example.org
     champ11 | Personne à prévenir en cas d’urgence | text | Paul
     champ12 | Comment avez-vous connu le club ? | choice | Affiche
     champ13 | J’accepte le règlement | boolean | true`,
    `salutation | | string | champ1
     last_name | | string | champ2
     first_name | | string | champ3
     birth_date | | date | champ4
     street | | string | champ5
     postal_code | | string | champ6
     city | | string | champ7
     landline | Home phone | phone | champ8
     mobile_phone | | phone | champ9
     email | | email | champ10
     emergency_contact | | string | champ11
     referral | How they heard about us | string | champ12
     rules_accepted | | boolean | champ13
     membership_level | | string | -`,
  ),
  pair(
    'Solicitud de voluntariado',
    `p_1 | Nombre | text | Marta
     p_2 | Apellidos | text | Ríos Vega
     p_3 | Correo electrónico | email | marta@example.org
     p_4 | Teléfono móvil | phone | 600 000 000
     p_5 | Fecha de nacimiento | date | 12/03/1984
     p_6 | Ciudad | text | Valclaro
     p_7 | Código postal | text | 28000
     p_8 | ¿Qué te gustaría hacer? | choices | Paseos
     p_9 | ¿Tienes experiencia previa? | multiline | sí
     p_10 | ¿Qué días puedes venir? | choices | Lunes
     p_11 | Acepto la política de privacidad | boolean | true`,
    `first_name | | string | p_1
     last_name | | string | p_2
     email | | email | p_3
     cell_phone | | string | p_4
     dob | Date of birth | date | p_5
     town | | string | p_6
     zip | | string | p_7
     interests | | array | p_8
     experience | Previous experience | string | p_9
     availability | Available days | array | p_10
     gdpr_consent | | boolean | p_11
     photo | | file | -
     driving_licence | | boolean | -`,
  ),
  pair(
    'IT ticket with opaque keys',
    `input_7 | Who is affected? | text | Wen Xiu
     input_9 | Department | choice | Lab / Field
     input_12 | Short summary of the problem | text | Probe dead
     input_13 | Describe what happens | multiline | It does not start
     input_15 | How urgent is it? | choice | Low / High
     input_18 | Screenshot | files |
     input_21 | Asset tag | text | AB-0031
     input_22 | Call me back at | phone | 020 7946 0142`,
    `title | Title | string | input_12
     body | Description | string | input_13
     priority | Priority | choice (Low, Normal, High) | input_15
     department | | string | input_9
     asset_id | Asset tag | string | input_21
     files | Attachments | file | input_18
     callback_number | Phone | phone | input_22
     assigned_to | | string | -
     due_date | | date | -
     tags | | array | -`,
  ),
  pair(
    'conference registration to contacts',
    `reg_name | Name as it should appear on the badge | text | Gwen Pryce
     reg_company | Organisation | text | River Lab
     reg_role | What do you do there? | text | Ecologist
     reg_mail | Work e-mail | email | gwen@example.org
     reg_private | Private e-mail | email | gp@example.net
     reg_diet | Do you have any dietary requirements? | text | Vegan
     reg_shirt | T-shirt size | choice | S / M
     reg_country | Country | text | Wales
     reg_talk | Would you like to give a talk? | boolean | false
     reg_invoice | Address for the invoice | multiline | 14 Weir Lane`,
    `badge_name | Badge name | string | reg_name
     company | | string | reg_company
     job_title | Job title | string | reg_role
     business_email | | email | reg_mail
     personal_email | | email | reg_private
     dietary_needs | | string | reg_diet
     tshirt | Shirt size | choice (S, M, L) | reg_shirt
     country_code | Country | string | reg_country
     billing_address | | string | reg_invoice
     speaker | Gives a talk | boolean | reg_talk
     hotel_room | | string | -
     arrival_time | | time | -`,
  ),
  pair(
    'species sighting',
    `s01 | Species seen | choice | Otter / Heron
     s02 | How many individuals? | number | 2
     s03 | Date of the sighting | date | 2026-05-02
     s04 | Time of the sighting | time | 07:30
     s05 | Grid reference | text | XX 123 456
     s06 | Weather | choice | Rain
     s07 | Behaviour observed | multiline | Fishing
     s08 | Photos or video | files |
     s09 | Observer’s name | text | Wen Xiu
     s10 | Observer’s e-mail | email | wen@example.org`,
    `species | Species | string | s01
     count | Number seen | integer | s02
     observed_on | Date | date | s03
     observed_at | Time | time | s04
     grid_ref | Grid reference | string | s05
     weather | | string | s06
     behaviour | | string | s07
     media | Photos | file | s08
     recorder | Recorder | string | s09
     recorder_email | Recorder e-mail | email | s10
     verified | | boolean | -
     habitat | | string | -`,
  ),
  pair(
    'Mietanfrage',
    `wohnung | Welche Wohnung interessiert Sie? | choice | 3A
     einzug | Gewünschter Einzugstermin | date | 01.02.2027
     name | Ihr Name | text | Ilse Brandt
     tel | Telefon tagsüber | phone | 030 000000
     mail | Ihre E-Mail-Adresse | email | ilse@example.org
     personen | Anzahl der Personen | number | 3
     einkommen | Monatliches Nettoeinkommen | number | 3200
     haustiere | Haben Sie Haustiere? | boolean | false
     arbeitgeber | Arbeitgeber | text | Wasserwerk
     nachricht | Was möchten Sie uns noch sagen? | multiline | –`,
    `unit | Flat | string | wohnung
     move_in_date | | date | einzug
     applicant_first_name | | string | name
     applicant_last_name | | string | name
     phone | | phone | tel
     email | | email | mail
     household_size | Number of persons | integer | personen
     monthly_income | | number | einkommen
     pets | | boolean | haustiere
     employer | | string | arbeitgeber
     message | | string | nachricht
     credit_score | | number | -
     smoker | | boolean | -`,
  ),
  pair(
    'donation',
    `d1 | I would like to give | number | 25
     d2 | How often? | choice | Once / Monthly
     d3 | Title | choice | Ms / Mr
     d4 | First name(s) | text | Morenike
     d5 | Surname | text | Adeyemi
     d6 | House number and street | text | 14 Weir Lane
     d7 | Town | text | Fernhollow
     d8 | County | text | Alder
     d9 | Postcode | text | AB12 3CD
     d10 | Leave a message with your gift | multiline |
     d11 | Yes, send me your newsletter | boolean | true
     d12 | E-mail for the receipt | email | m@example.org`,
    `amount | Amount | number | d1
     frequency | Frequency | choice (Once, Monthly, Yearly) | d2
     donor_title | Title | string | d3
     donor_first_name | | string | d4
     donor_last_name | | string | d5
     address_line_1 | | string | d6
     city | | string | d7
     state | County or state | string | d8
     zip_code | | string | d9
     comment | | string | d10
     newsletter_opt_in | | boolean | d11
     receipt_email | | email | d12
     payment_method | | string | -
     tax_id | | string | -`,
  ),
  pair(
    'job application',
    `q10 | Position you are applying for | choice | Ranger
     q11 | Given name | text | Ravi
     q12 | Family name | text | Chandran
     q13 | Preferred pronouns | text | he
     q14 | Nationality | text | British
     q15 | Earliest start date | date | 2026-09-01
     q16 | Expected salary | number | 31000
     q17 | Upload your CV | files |
     q18 | Cover letter | files |
     q19 | Name of a referee | text | Amos Reed
     q20 | E-mail of the referee | email | amos@example.org
     q21 | Your e-mail | email | ravi@example.org
     q22 | LinkUp or portfolio address | url | https://example.org/r`,
    `job | Job | string | q10
     first_name | | string | q11
     last_name | | string | q12
     pronouns | | string | q13
     citizenship | | string | q14
     available_from | | date | q15
     salary_expectation | | number | q16
     resume | | file | q17
     cover_letter | | file | q18
     reference_name | | string | q19
     reference_email | | email | q20
     email | | email | q21
     website | | url | q22
     phone | | phone | -
     interview_date | | datetime | -`,
  ),
  pair(
    'Demande de devis',
    `nom_societe | Nom de l’entreprise | text | Rive SA
     interlocuteur | Nom et prénom de votre interlocuteur | text | Paul Moulin
     mel | Courriel professionnel | email | paul@example.org
     besoin | Décrivez votre besoin | multiline | Analyse
     quantite | Quantité | number | 12
     delai | Pour quand ? | date | 01/02/2027
     budget | Budget prévu | number | 4000
     pj | Cahier des charges (PDF) | files |
     pays | Pays | text | France`,
    `company | Company | string | nom_societe
     contact_name | Contact | string | interlocuteur
     email | | email | mel
     requirements | Description | string | besoin
     quantity | | integer | quantite
     deadline | Needed by | date | delai
     budget | | number | budget
     document | File | file | pj
     country | | string | pays
     sales_rep | | string | -
     discount | | number | -
     vat_number | | string | -`,
  ),
  pair(
    'patient intake with two people',
    `pt_name | Patient’s full name | text | Sam Holt
     pt_dob | Patient’s date of birth | date | 2018-03-04
     pt_allergy | Known allergies | text | nuts
     gd_name | Parent or guardian: full name | text | Jo Holt
     gd_phone | Parent or guardian: mobile | phone | 020 7946 0142
     gd_mail | Parent or guardian: e-mail | email | jo@example.org
     doc | Name of your doctor | text | Dr Reed
     ins | Insurance number | text | 99-1
     sign | Date signed | date | 2026-11-01`,
    `patient_first_name | | string | pt_name
     patient_last_name | | string | pt_name
     patient_birth_date | | date | pt_dob
     allergies | | string | pt_allergy
     guardian_name | | string | gd_name
     guardian_phone | | phone | gd_phone
     guardian_email | | email | gd_mail
     physician | Doctor’s name | string | doc
     insurance_number | | string | ins
     signed_on | Signed on | date | sign
     blood_type | | string | -
     room | | string | -`,
  ),
  pair(
    'Encuesta de satisfacción',
    `e1 | ¿Cómo nos conoció? | choice | Amigos
     e2 | ¿Qué servicio utilizó? | choice | Taller
     e3 | Valoración general | number | 4
     e4 | ¿Qué podríamos mejorar? | multiline |
     e5 | Número de cliente | text | 771
     e6 | Su nombre y apellidos | text | Marta Ríos
     e7 | Su correo | email | m@example.org
     e8 | Fecha de la visita | date | 01/02/2027`,
    `source | How they heard about us | string | e1
     service | Service | string | e2
     rating | Overall rating | integer | e3
     suggestions | What to improve | string | e4
     customer_number | | string | e5
     customer_name | | string | e6
     customer_email | | email | e7
     visit_date | | date | e8
     agent | | string | -
     follow_up | | boolean | -`,
  ),
  pair(
    'flat camel-case keys without labels',
    `contactFirstName | | text | Wen
     contactLastName | | text | Xiu
     contactEmailAddress | | email | w@example.org
     billingStreet | | text | 1 Mill Rd
     billingCity | | text | Fernhollow
     billingZip | | text | AB12 3CD
     shippingStreet | | text | 2 Mill Rd
     shippingCity | | text | Otterby
     shippingZip | | text | AB12 3CE
     orderNotes | | multiline | ring twice
     newsletterSignup | | boolean | true`,
    `first_name | First name | string | contactFirstName
     last_name | Last name | string | contactLastName
     email | E-mail | email | contactEmailAddress
     invoice_street | Invoice street | string | billingStreet
     invoice_town | Invoice town | string | billingCity
     invoice_postcode | Invoice postcode | string | billingZip
     delivery_street | Delivery street | string | shippingStreet
     delivery_town | Delivery town | string | shippingCity
     delivery_postcode | Delivery postcode | string | shippingZip
     remarks | Remarks | string | orderNotes
     mailing_list | Mailing list | boolean | newsletterSignup
     delivery_date | Delivery date | date | -
     invoice_email | Invoice e-mail | email | -`,
  ),
  pair(
    'Schulbesuch',
    `schule | Name der Schule | text | Grundschule am Wehr
     lehrkraft | Name der Lehrkraft | text | Frau Brandt
     klasse | Klassenstufe | choice | 3 / 4
     kinder | Wie viele Kinder kommen mit? | number | 24
     termin1 | Wunschtermin | date | 01.06.2026
     termin2 | Ausweichtermin | date | 08.06.2026
     telefon | Telefonnummer der Schule | phone | 030 000000
     mail | E-Mail der Lehrkraft | email | b@example.org
     bus | Kommen Sie mit dem Bus? | boolean | true
     frage | Ihre Fragen an uns | multiline | –`,
    `school_name | School | string | schule
     teacher_name | Teacher | string | lehrkraft
     grade | Class | string | klasse
     pupils | Number of children | integer | kinder
     preferred_date | Preferred date | date | termin1
     alternative_date | Alternative date | date | termin2
     school_phone | Phone | phone | telefon
     teacher_email | E-mail | email | mail
     questions | Questions | string | frage
     guide | Guide assigned | string | -
     fee | Fee | number | -`,
  ),
  pair(
    'vehicle log, one-box address and name',
    `v1 | Driver | text | Amos Reed
     v2 | Registration plate | text | AB12 CDE
     v3 | Mileage at start | number | 12001
     v4 | Mileage at end | number | 12077
     v5 | Purpose of the trip | text | Sampling
     v6 | Destination address | multiline | 14 Weir Lane, Fernhollow, AB12 3CD
     v7 | Fuel added (litres) | number | 20
     v8 | Any damage? | multiline | none
     v9 | Date of trip | date | 2026-11-02`,
    `driver_name | Driver’s name | string | v1
     plate | Registration | string | v2
     odometer_start | Start mileage | number | v3
     odometer_end | End mileage | number | v4
     purpose | | string | v5
     destination | Destination | string | v6
     fuel_litres | Fuel, litres | number | v7
     damage | Damage | string | v8
     trip_date | Date | date | v9
     approved_by | | string | -
     cost_centre | | string | -`,
  ),
];
