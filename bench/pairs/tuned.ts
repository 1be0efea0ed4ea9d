import { pair, type Pair } from './notation';

/** More pairs looked at while the matcher was tuned. */
export const tunedPairs: Pair[] = [
  pair(
    'camp booking',
    `k1 | Child’s first name | text | Sam
     k2 | Child’s surname | text | Holt
     k3 | How old is your child? | number | 9
     k4 | Which week? | choice | Week 1
     k5 | Can your child swim? | boolean | true
     k6 | Anything we need to know about food or medicine? | multiline | nuts
     k7 | Your name | text | Jo Holt
     k8 | Best number to reach you | phone | 020 7946 0142
     k9 | Someone else we can ring | phone | 020 7946 0143
     k10 | Your e-mail | email | jo@example.org
     k11 | We may take photos | boolean | true`,
    `camper_given_name | | string | k1
     camper_family_name | | string | k2
     age | Age | integer | k3
     week | Week | string | k4
     swimmer | Can swim | boolean | k5
     medical_info | Food and medicine | string | k6
     parent_name | Parent’s name | string | -
     parent_phone | Parent’s phone | phone | -
     second_phone | Alternative phone | phone | k9
     email | | email | k10
     photo_consent | Photo consent | boolean | k11
     cabin | | string | -`,
  ),
  pair(
    'Hundeschule',
    `a | Name des Hundes | text | Bruno
     b | Rasse | text | Spitz
     c | Alter des Hundes | number | 3
     d | Ihr Vorname | text | Ilse
     e | Ihr Nachname | text | Brandt
     f | Unter welcher Nummer erreichen wir Sie? | phone | 030 000000
     g | An welche Adresse dürfen wir Ihnen schreiben? | email | i@example.org
     h | Welcher Kurs? | choice | Welpen
     i | Ab wann? | date | 01.03.2027
     j | Wie sind Sie auf uns aufmerksam geworden? | choice | Plakat
     k | Haben Sie noch Fragen? | multiline | nein`,
    `dog_name | Name of the dog | string | a
     breed | Breed | string | b
     dog_age | Age of the dog | integer | c
     owner_first_name | | string | d
     owner_last_name | | string | e
     phone | | phone | f
     email | | email | g
     course | Course | string | h
     start_date | Start | date | i
     source | How they heard | string | j
     questions | Questions | string | k
     vaccinated | | boolean | -`,
  ),
  pair(
    'Réservation de salle',
    `r1 | Association ou entreprise | text | Rive
     r2 | Nom du responsable | text | Paul Moulin
     r3 | Numéro de téléphone | phone | 01 99 00 11 22
     r4 | Mail | email | p@example.org
     r5 | Quelle salle souhaitez-vous réserver ? | choice | Grande
     r6 | Date de l’événement | date | 01/02/2027
     r7 | Heure de début | time | 18:00
     r8 | Heure de fin | time | 22:00
     r9 | Combien de personnes attendez-vous ? | number | 40
     r10 | Matériel nécessaire | choices | Sono
     r11 | Précisions | multiline |
     r12 | Adresse de facturation | multiline | 3 rue du Moulin`,
    `organisation | | string | r1
     contact_person | Contact | string | r2
     phone | | phone | r3
     email | | email | r4
     room | Room | string | r5
     event_date | Event date | date | r6
     start_time | Start time | time | r7
     end_time | End time | time | r8
     attendees | Number of attendees | integer | r9
     equipment | Equipment | array | r10
     notes | Notes | string | r11
     billing_address | | string | r12
     catering | | boolean | -
     price | | number | -`,
  ),
  pair(
    'Inscripción a un curso',
    `i1 | Nombre y apellidos | text | Marta Ríos
     i2 | DNI | text | 00000000T
     i3 | Domicilio | text | Calle Mayor 3
     i4 | Provincia | text | Valclaro
     i5 | Teléfono de contacto | phone | 600
     i6 | Dirección de correo electrónico | email | m@example.org
     i7 | Curso elegido | choice | Acuarela
     i8 | Nivel de estudios | choice | Primaria
     i9 | Situación laboral | choice | Activo
     i10 | Forma de pago | choice | Tarjeta
     i11 | Observaciones | multiline |
     i12 | He leído y acepto las condiciones | boolean | true`,
    `first_name | | string | i1
     last_name | | string | i1
     national_id | ID number | string | i2
     street_address | | string | i3
     province | | string | i4
     phone_number | | string | i5
     email_address | | string | i6
     course | Course | string | i7
     education_level | Education | string | i8
     employment_status | Employment | string | i9
     payment_method | Payment method | string | i10
     comments | | string | i11
     terms_accepted | | boolean | i12
     discount_code | | string | -`,
  ),
  pair(
    'property maintenance',
    `w1 | Building | choice | Mill House
     w2 | Flat number | text | 12
     w3 | What is broken? | text | Boiler
     w4 | Since when? | date | 2026-11-01
     w5 | May we enter when you are out? | boolean | true
     w6 | Preferred time of visit | choice | Morning
     w7 | Tenant’s name | text | Wen Xiu
     w8 | Daytime phone | phone | 020 7946 0142
     w9 | Evening phone | phone | 020 7946 0143
     w10 | Pictures of the damage | files |`,
    `building | | string | w1
     unit_number | Flat | string | w2
     issue | Problem | string | w3
     since | Since | date | w4
     access_permitted | May enter | boolean | w5
     visit_slot | Preferred slot | string | w6
     tenant_name | Tenant | string | w7
     day_phone | Phone, day | phone | w8
     evening_phone | Phone, evening | phone | w9
     photos | | file | w10
     contractor | | string | -
     cost | | number | -
     closed_on | | date | -`,
  ),
  pair(
    'grant application',
    `g1 | Name of your organisation | text | River Friends
     g2 | Registered charity number | text | 991
     g3 | Website | url | https://example.org
     g4 | Who should we talk to? | text | Amos Reed
     g5 | Their e-mail | email | a@example.org
     g6 | Their telephone number | phone | 020
     g7 | Title of your project | text | Clean banks
     g8 | What will you do? | multiline | Clean
     g9 | How much money are you asking for? | number | 900
     g10 | When does it begin? | date | 2027-03-01
     g11 | When does it end? | date | 2027-09-01
     g12 | Budget (spreadsheet) | files |
     g13 | How many people will benefit? | number | 200`,
    `organization_name | | string | g1
     charity_number | | string | g2
     url | Web address | url | g3
     contact_name | | string | g4
     contact_email | | email | g5
     contact_phone | | phone | g6
     project_title | | string | g7
     project_description | | string | g8
     amount_requested | | number | g9
     project_start | Start date | date | g10
     project_end | End date | date | g11
     budget_file | Budget | file | g12
     beneficiaries | Number of beneficiaries | integer | g13
     reviewer | | string | -
     score | | number | -`,
  ),
  pair(
    'Bestellung mit zwei Adressen',
    `k_vorname | Vorname | text | Jonas
     k_name | Name | text | Brandt
     k_firma | Firma (falls vorhanden) | text |
     r_strasse | Straße (Rechnung) | text | Uferweg 3
     r_plz | PLZ (Rechnung) | text | 12345
     r_ort | Ort (Rechnung) | text | Erlental
     l_strasse | Straße (Lieferung, falls abweichend) | text | Am Wehr 1
     l_plz | PLZ (Lieferung) | text | 12346
     l_ort | Ort (Lieferung) | text | Wehrau
     menge | Wie viele Stück? | number | 3
     farbe | Farbe | choice | blau
     wunsch | Sonderwünsche | multiline | –
     agb | Ich akzeptiere die AGB | boolean | true`,
    `first_name | | string | k_vorname
     last_name | | string | k_name
     company | | string | k_firma
     billing_street | | string | r_strasse
     billing_postal_code | | string | r_plz
     billing_city | | string | r_ort
     shipping_street | | string | l_strasse
     shipping_postal_code | | string | l_plz
     shipping_city | | string | l_ort
     quantity | | integer | menge
     color | Colour | string | farbe
     special_requests | | string | wunsch
     accepted_terms | | boolean | agb
     coupon | | string | -`,
  ),
  pair(
    'fault report, long questions',
    `Please tell us where the fault is | | text | Otter Weir
     What kind of fault is it? | | choice | Leak
     When did you first notice it? | | date | 2026-11-02
     Is anyone in danger right now? | | boolean | false
     What is your name (so that we can thank you)? | | text | Wen Xiu
     Your email address, if you want an answer | | email | w@example.org
     Upload a picture if you have one | | files |`,
    `location | Location | string | Please tell us where the fault is
     fault_type | Type of fault | string | What kind of fault is it?
     noticed_on | First noticed | date | When did you first notice it?
     danger | Danger to people | boolean | Is anyone in danger right now?
     reporter_name | Reporter | string | What is your name (so that we can thank you)?
     reporter_email | Reporter’s e-mail | email | Your email address, if you want an answer
     image | Photo | file | Upload a picture if you have one
     team | | string | -
     resolved_at | | datetime | -`,
  ),
  pair(
    'library card',
    `lc1 | Your given names | text | Wen
     lc2 | Your family name | text | Xiu
     lc3 | Day, month and year of birth | date | 1984-03-12
     lc4 | House and street | text | 14 Weir Lane
     lc5 | Town or village | text | Fernhollow
     lc6 | Post code | text | AB12 3CD
     lc7 | Number we can text | phone | 020 7946 0142
     lc8 | Which branch will you use most? | choice | Mill Street
     lc9 | A document that proves your address | files |
     lc10 | Would you like reminders by e-mail? | boolean | true
     lc11 | Where should reminders go? | email | w@example.org`,
    `first_name | | string | lc1
     surname | | string | lc2
     date_of_birth | | date | lc3
     address_1 | | string | lc4
     city | | string | lc5
     postal_code | | string | lc6
     sms_number | Mobile for texts | phone | lc7
     home_branch | Branch | string | lc8
     proof_of_address | | file | lc9
     email_reminders | | boolean | lc10
     email | | email | lc11
     card_number | | string | -
     expires_on | | date | -`,
  ),
  pair(
    'Krankmeldung',
    `m1 | Name der Mitarbeiterin oder des Mitarbeiters | text | Ilse Brandt
     m2 | Personalnummer | text | 991
     m3 | Abteilung | choice | Labor
     m4 | Krank ab | date | 02.11.2026
     m5 | Voraussichtlich bis | date | 06.11.2026
     m6 | Vorgesetzte Person | text | Jonas
     m7 | Ärztliche Bescheinigung | files |
     m8 | Hinweise für das Team | multiline | –`,
    `employee_name | | string | m1
     employee_number | | string | m2
     department | | string | m3
     from_date | From | date | m4
     to_date | Until | date | m5
     manager | | string | m6
     certificate | Medical certificate | file | m7
     notes | | string | m8
     approved | | boolean | -
     cover_by | | string | -`,
  ),
  pair(
    'Covoiturage',
    `t1 | Prénom et nom | text | Élodie Moulin
     t2 | Vous êtes | choice | Conducteur / Passager
     t3 | Ville de départ | text | Valclair
     t4 | Ville d’arrivée | text | Rives
     t5 | Date du trajet | date | 01/02/2027
     t6 | Nombre de places | number | 3
     t7 | Marque et modèle du véhicule | text | –
     t8 | Prix par personne | number | 4
     t9 | Un mot pour les passagers | multiline |
     t10 | N° de portable | phone | 06`,
    `full_name | | string | t1
     role | Driver or passenger | choice (Conducteur, Passager) | t2
     origin_city | From city | string | t3
     destination_city | To city | string | t4
     trip_date | | date | t5
     seats | Seats | integer | t6
     vehicle | Car | string | t7
     price | Price per person | number | t8
     comment | | string | t9
     mobile | | phone | t10
     rating | | number | -
     licence_number | | string | -`,
  ),
  pair(
    'Reserva de mesa',
    `r1 | ¿A nombre de quién? | text | Marta Ríos
     r2 | Móvil | phone | 600
     r3 | Fecha | date | 01/02/2027
     r4 | Hora | time | 21:00
     r5 | Comensales | number | 4
     r6 | ¿Alguna alergia? | text | frutos secos
     r7 | ¿Celebran algo especial? | text | cumpleaños
     r8 | ¿Dentro o terraza? | choice | Terraza
     r9 | Quiero recibir ofertas | boolean | false`,
    `name | | string | r1
     phone | | phone | r2
     date | | date | r3
     time | | time | r4
     guests | Number of guests | integer | r5
     allergies | | string | r6
     occasion | Special occasion | string | r7
     area | Inside or terrace | string | r8
     marketing_opt_in | Wants offers | boolean | r9
     table_number | | string | -
     deposit | | number | -`,
  ),
  pair(
    'warranty claim',
    `wc_1 | Product | choice | Pump
     wc_2 | Serial number | text | S-1
     wc_3 | Where did you buy it? | text | Otterby
     wc_4 | When did you buy it? | date | 2026-01-02
     wc_5 | What went wrong? | multiline | stopped
     wc_6 | Proof of purchase | files |
     wc_7 | Repair, replacement or refund? | choice | Repair
     wc_8 | Your name | text | Wen Xiu
     wc_9 | Ship the repaired item to | multiline | 14 Weir Lane
     wc_10 | Phone for the courier | phone | 020`,
    `product_name | | string | wc_1
     serial_no | | string | wc_2
     retailer | Shop | string | -
     purchase_date | | date | wc_4
     issue_description | | string | wc_5
     receipt | Receipt | file | wc_6
     desired_outcome | Repair, replace or refund | string | wc_7
     customer_first_name | | string | wc_8
     customer_last_name | | string | wc_8
     shipping_address | | string | wc_9
     courier_phone | | phone | wc_10
     claim_status | | string | -
     technician | | string | -`,
  ),
  pair(
    'member survey, keys only',
    `member_no | | text | 12
     joined_year | | number | 2019
     how_satisfied | | number | 4
     favouriteActivity | | choice | Walks
     whatToImprove | | multiline |
     wouldRecommend | | boolean | true
     contactMeBack | | boolean | true
     bestTimeToCall | | choice | Evening
     phoneNo | | phone | 020`,
    `membership_number | Membership number | string | member_no
     satisfaction | Satisfaction, 1 to 5 | integer | how_satisfied
     favourite_activity | Favourite activity | string | favouriteActivity
     improvements | What to improve | string | whatToImprove
     recommends | Would recommend us | boolean | wouldRecommend
     callback_wanted | Wants a call | boolean | contactMeBack
     callback_time | Best time to call | string | bestTimeToCall
     phone | Phone | phone | phoneNo
     year_joined | Year of joining | integer | joined_year
     email | E-mail | email | -
     score_by | Scored by | string | -`,
  ),
];
