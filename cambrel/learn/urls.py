from django.urls import path

from cambrel.learn import views

app_name = "learn"
urlpatterns = [path("learn/care/", views.care, name="care")]
